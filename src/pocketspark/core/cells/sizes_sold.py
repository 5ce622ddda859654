"""Cells by their size code alone: every code that such cells are sold in, with what a good one of its volume holds.

Which codes are made changes from month to month. A grid of usual thicknesses, widths and lengths covers them (common
practice, no source); whether anybody sells one today, a search for the code tells.
"""

import itertools
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from pocketspark.core.cells.credibility import credible_capacity_ah, energy_density_wh_per_l
from pocketspark.core.models import Cell
from pocketspark.core.models.board import Protection

# Of pouches: tenths of a millimetre, then millimetres. Of round cells: millimetres across, tenths high.
_THICK = (20, 25, 30, 35, 40, 45, 50, 55, 60, 65, 70, 75, 80, 85, 90, 95, 100, 103, 110, 120)
_WIDE = (9, 10, 12, 15, 17, 20, 23, 25, 28, 30, 34, 37, 40, 45, 48, 50, 55, 60)
_LONG = (12, 15, 20, 25, 30, 35, 40, 45, 48, 50, 55, 60, 65, 70, 80, 90, 100)
_ROUND = (
    *("10180", "10280", "10440", "13300", "14250", "14430", "14500", "14650", "16340", "16500", "16650", "17500"),
    *("18350", "18500", "18650", "20700", "21700", "26650"),
)
# A pouch is no thicker than half its width, and no longer than four times that.
_THICKEST_SHARE, _LONGEST_SHARE = 0.5, 4
# A charge in an hour is what a cell is taken to bear of which no more is known.
_BEARS_C = 1.0


@dataclass(frozen=True)
class _Estimate:
    """Two straight lines through known cells of one form: Wh per litre over the logarithm of the volume (small cells
    are half wrapping), and the price over the capacity."""

    wh_per_l: np.poly1d
    price: np.poly1d

    def of(self, body: Cell) -> tuple[float, float]:
        """Capacity, never more than a good cell of this volume holds, and price."""
        assert body.volume_l is not None
        held_ah = self.wh_per_l(np.log(body.volume_l)) * body.volume_l / body.facts.nominal_v
        capacity_ah = _two_digits(min(float(held_ah), credible_capacity_ah(body) or 0.0))
        return capacity_ah, round(float(self.price(capacity_ah)), 1)


def cells_by_size(known: Sequence[Cell]) -> list[Cell]:
    """One for each code. Capacity and price are estimated along those of the `known` cells of the same form."""
    estimates = {form: _estimate([cell for cell in known if cell.form == form]) for form in ("pouch", "round")}
    return [_cell(code, body, *estimates[body.form].of(body)) for code, body in (*_pouches(), *_rounds())]


def _estimate(cells: Sequence[Cell]) -> _Estimate:
    whole = [cell for cell in cells if cell.volume_l and cell.price is not None and cell.cell_class == "li_4v20"]
    wh_per_l = np.polyfit(
        [np.log(cell.volume_l or 1.0) for cell in whole], [energy_density_wh_per_l(cell) or 0.0 for cell in whole], 1
    )
    price = np.polyfit([cell.capacity_ah for cell in whole], [cell.price or 0.0 for cell in whole], 1)
    return _Estimate(np.poly1d(wh_per_l), np.poly1d(price))


def _pouches() -> Iterator[tuple[str, Cell]]:
    for tenths, wide, long in itertools.product(_THICK, _WIDE, _LONG):
        if tenths / 10 <= wide * _THICKEST_SHARE and wide <= long <= wide * _LONGEST_SHARE:
            size_mm = (tenths / 10, float(wide), float(long))
            yield f"{tenths:02d}{wide:02d}{long:02d}", Cell(form="pouch", size_mm=size_mm, capacity_ah=1)


def _rounds() -> Iterator[tuple[str, Cell]]:
    for code in _ROUND:
        yield code, Cell(form="round", size_mm=(float(code[:2]), int(code[2:]) / 10), capacity_ah=1)


def _cell(code: str, body: Cell, capacity_ah: float, price: float) -> Cell:
    return body.model_copy(
        update={
            "name": f"{body.form.capitalize()} {code}, {capacity_ah * 1000:.0f} mAh by its size",
            "capacity_ah": capacity_ah,
            "charge_max_a": capacity_ah * _BEARS_C,
            "discharge_max_a": capacity_ah * _BEARS_C,
            "own_protection": Protection(name="on the cell") if body.form == "pouch" else None,
            "price": price,
        }
    )


def _two_digits(capacity_ah: float) -> float:
    """Down, as an honest label is."""
    digits = 1 - int(np.floor(np.log10(capacity_ah)))
    return float(np.floor(capacity_ah * 10**digits + 1e-9) / 10**digits)
