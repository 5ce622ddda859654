"""Small libraries to search through, and a search seen to its end."""

from pocketspark.core.models import Cell
from pocketspark.core.proposals import OnOffer, proposals
from pocketspark.core.proposals.offer import Offered
from pocketspark.parts import library

CELLS = ["pouch-503450", "pouch-803450", "pouch-301020", "pouch-603048"]


def of(kind, *words, most=99):
    bodies = [part.cell or part.board for part in library().of(kind)]
    return [body for body in bodies if all(word in body.name for word in words)][:most]


def small_library(most_cells=5, *, large=False):
    """All kinds of part are in it. `large`: over three thousand builds."""
    cells = [part.cell for part in library().of("cell") if part.id in CELLS]
    cells += [part.cell for part in library().of("cell") if part.cell.cell_class == "lfp"][:1]
    cells.append(Cell(name="bare", capacity_ah=0.7, size_mm=(5, 30, 40), charge_max_a=0.7, price=2.0))
    chargers = [part.board for part in library().of("charger")][: 9 if large else 4]
    regulators = (
        of("regulator", "3.3 V", most=7 if large else 3)
        + of("regulator", "diode", most=1)
        + of("regulator", "5 V", most=1)
    )
    return OnOffer(
        [Offered(cell) for cell in cells[-most_cells:]],
        [Offered(one) for one in chargers],
        [Offered(part.board) for part in library().of("protection")][:2],
        [None, *(Offered(one) for one in regulators)],
    )


def proposed(project, offer, wishes=None):
    *_, last = proposals(project, 0, offer, wishes)
    assert last.finished
    return last
