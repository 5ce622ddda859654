"""What ships is sound by its own rules: every cell with a gentle gadget, a board of its class and the suggested
resistor raises no caution. A rule that cries wolf over the tool's own parts is believed by nobody."""

import pytest

from builders import plan
from pocketspark.core.chain import Chain
from pocketspark.core.questions.assess import assess
from pocketspark.parts import library

CELLS = {part.id: part.cell for part in library().parts if part.cell}
CHARGERS = [part.board for part in library().parts if part.board and part.board.charger]
PROTECTIONS = [
    part.board for part in library().parts if part.board and part.board.protection and not part.board.charger
]


def fitting_boards(cell):
    """A charger of the cell's class with a socket, and a protection where neither carries one."""
    charger = next(b for b in CHARGERS if abs(b.charger.float_v - cell.facts.full_v) < 0.01 and b.socket)
    if charger.protection or cell.own_protection:
        return [charger]
    span = cell.facts.full_v, cell.facts.full_v + 0.2
    return [charger, next(b for b in PROTECTIONS if span[0] < b.protection.over_charge_v <= span[1])]


@pytest.mark.parametrize("cell", CELLS.values(), ids=CELLS)
def test_no_caution_about_a_gentle_build(cell):
    gentle = {
        "front_end": "regulator",
        "supply": {"battery": "LR44", "series": 3},
        "window": {"v_run_min": 2.4, "v_abs_max": 6.0},
        "modes": [{"name": "on", "current_a": cell.capacity_ah / 50, "hours_per_day": 1}],
        "bay": {"rooms": [{"size_mm": [160, 120, 60]}]},
    }
    boards = [board.model_dump(mode="json") for board in fitting_boards(cell)]
    project = plan(gadget=gentle, cell=cell.model_dump(mode="json"), boards=boards, r_prog_ohm=None)
    suggested = Chain(project, 0).charging.current.suggested_r_ohm
    project = plan(gadget=gentle, cell=cell.model_dump(mode="json"), boards=boards, r_prog_ohm=suggested)
    against = [(f.code, f.headline) for f in assess(project).findings if f.level in ("stop", "caution")]
    assert against == []
