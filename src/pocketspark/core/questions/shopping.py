"""The shopping list of a build: what to search for, what to look for on a listing, and what to leave.

What a listing tells and hides is common practice of the trade, no source, but for the figures, which are the build's.
"""

import math
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import NamedTuple

from pydantic import computed_field

from pocketspark.core.cells.credibility import credible_capacity_ah
from pocketspark.core.chain import Chain
from pocketspark.core.message import NOTHING, Message, as_message, once, say, verbatim
from pocketspark.core.models import Board, Cell, Project
from pocketspark.core.models.board import CC_OHM
from pocketspark.core.models.inventory_item import InventoryModel, Resistor
from pocketspark.core.models.model import Model
from pocketspark.core.questions.bill import ENOUGH_FOR_SEVERAL, BillRow, outside_charger, sundries
from pocketspark.core.steps import procedure
from pocketspark.core.units.figures import amp_hours, amps, bare, exact_percent, fixed, ohms, sizes, volts

# A label that claims so much more than its volume holds is not believed.
CLAIMS_TOO_MUCH = 1.3
# Resistors of one value are sold so (common practice, no source).
RESISTORS_IN_A_BAG = 10


@dataclass(frozen=True)
class Owned:
    """A part of the maker's own, and how many lie there."""

    name: str
    body: InventoryModel
    stock: int


class ShoppingLine(Model):
    """One part. `at_hand`: so many of `pieces` lie among the maker's own parts already. `sold_by`: in bags of so many.

    `wanted_by`: gadgets, where the list is of several.
    """

    pieces: int
    at_hand: int = 0
    part: Message
    size: Message = NOTHING
    search: Message
    look_for: tuple[Message, ...] = ()
    leave: tuple[Message, ...] = ()
    price: float | None = None  # of one
    sold_by: int = 1
    wanted_by: tuple[str, ...] = ()

    @property
    def missing(self) -> int:
        return max(self.pieces - self.at_hand, 0)

    @computed_field  # type: ignore[prop-decorator]
    @property
    def bags(self) -> int:
        """To be bought; as many as pieces where it is sold by the piece."""
        return math.ceil(self.missing / self.sold_by)


class ShoppingList(Model):
    """What is to buy, what is there, and what its steps use up and are done with. `price`: of what is to buy."""

    to_buy: tuple[ShoppingLine, ...]
    there: tuple[ShoppingLine, ...]
    consumables: tuple[Message, ...]
    tools: tuple[Message, ...]
    price: float


def shopping_list(project: Project, build: int, own: Sequence[Owned] = ()) -> ShoppingList:
    """Of one build, less what lies among the maker's own parts. Raises MissingPart before a cell is chosen."""
    chain = Chain(project, build)
    lines = [_less_owned(line, body, own) for line, body in _lines(chain)]
    to_buy = tuple(line for line in lines if line.missing)
    steps = procedure(project, build).steps
    return ShoppingList(
        to_buy=to_buy,
        there=tuple(line for line in lines if not line.missing),
        consumables=once(what for step in steps for what in step.materials),
        tools=once(what for step in steps for what in step.tools),
        price=round(sum(line.missing * (line.price or 0.0) for line in to_buy), 2),
    )


class WantedBuild(NamedTuple):
    """A build that is still to be made, and what its gadget is called."""

    called: str
    project: Project
    build: int


class OpenShopping(Model):
    """What all open conversions still want. `price`: of what is to buy and has one. `left_out`: without a cell yet."""

    to_buy: tuple[ShoppingLine, ...]
    there: tuple[ShoppingLine, ...]
    left_out: tuple[str, ...]
    price: float


def shopping_over_all(wanted: Iterable[WantedBuild], own: Sequence[Owned] = ()) -> OpenShopping:
    """The same part of several builds is one line, and each part of the maker's own serves one of them."""
    lines: dict[tuple[str, str], tuple[ShoppingLine, InventoryModel | None]] = {}
    left_out = []
    for called, project, build in wanted:
        chain = Chain(project, build)
        if chain.cell is None:
            left_out.append(called)
            continue
        for line, body in _lines(chain):
            key = str(line.part), str(line.size)
            before = lines[key][0] if key in lines else line.model_copy(update={"pieces": 0})
            together = {
                "pieces": 1 if key[0] in ENOUGH_FOR_SEVERAL else before.pieces + line.pieces,
                "wanted_by": tuple(dict.fromkeys((*before.wanted_by, called))),
                "at_hand": before.at_hand + line.at_hand if key in lines else line.at_hand,
            }
            lines[key] = (before.model_copy(update=together), body)
    less = [_less_owned(line, body, own) for line, body in lines.values()]
    to_buy = tuple(line for line in less if line.missing)
    return OpenShopping(
        to_buy=to_buy,
        there=tuple(line for line in less if not line.missing),
        left_out=tuple(left_out),
        price=round(sum(line.bags * line.sold_by * (line.price or 0.0) for line in to_buy), 2),
    )


def _lines(chain: Chain) -> Iterator[tuple[ShoppingLine, InventoryModel | None]]:
    build = chain.build
    if build.cell:
        yield _cell_line(build.cell, build.cell_count), build.cell
    for cell in build.unlike_cells:
        yield _cell_line(cell, 1), cell
    for board in build.boards:
        yield _board_line(board, chain), board
    if chain.board_charging:
        wanted = Resistor(r_ohm=chain.board_charging.current.r_marked_ohm, tolerance=build.r_tolerance)
        yield _resistor_line(wanted), wanted
    for row in outside_charger(chain):
        line = _plain_line(row).model_copy(update={"price": build.external_charger.price})
        # One without a price is there already.
        yield line.model_copy(update={"at_hand": int(line.price is None)}), None
    for row in sundries(chain):
        yield _plain_line(row), None


def _plain_line(row: BillRow) -> ShoppingLine:
    pieces, name, remark = row
    look_for = (as_message(remark),) if remark else ()
    return ShoppingLine(pieces=pieces, part=as_message(name), search=as_message(name), look_for=look_for)


def _less_owned(line: ShoppingLine, body: InventoryModel | None, own: Sequence[Owned]) -> ShoppingLine:
    if body is None:
        return line
    at_hand = sum(owned.stock for owned in own if _serves(owned.body, body))
    return line.model_copy(update={"at_hand": min(at_hand, line.pieces)})


def _serves(owned: InventoryModel, wanted: InventoryModel) -> bool:
    """A resistor by its value and tolerance; any other part by what it is, not by what it costs or where it lies."""
    if isinstance(owned, Resistor) and isinstance(wanted, Resistor):
        return owned.r_ohm == wanted.r_ohm and owned.tolerance <= wanted.tolerance
    if type(owned) is not type(wanted):
        return False
    aside = {"inventory_id", "id", "price", "intake"}
    return owned.model_dump(exclude=aside) == wanted.model_dump(exclude=aside)


# What each kind of part is asked to be --------------------------------------------------------------------------


def _cell_line(cell: Cell, pieces: int) -> ShoppingLine:
    facts, most_ah = cell.facts, credible_capacity_ah(cell)
    look = [
        say(
            "marked {nominal_v} V, end of charge {full_v}",
            nominal_v=fixed(facts.nominal_v, 1),
            full_v=volts(facts.full_v),
        ),
        say("leads or tabs on it already"),
    ]
    protected = say("its protection under the tape at the lead end")
    look.append(protected if cell.own_protection else say("bare is right here: its protection is a board of this list"))
    if pieces > 1:
        look.append(say("all of one listing and one date"))
    leave = [say("swollen, dented, or without a size on it")]
    if most_ah:
        leave.append(
            say("over {most_ah} claimed: this size cannot hold it", most_ah=amp_hours(most_ah * CLAIMS_TOO_MUCH))
        )
    return ShoppingLine(
        pieces=pieces,
        part=verbatim(cell.name),
        size=_size(cell.size_mm),
        search=say(
            "{nominal_v} V {form} cell {code} {capacity}",
            nominal_v=bare(facts.nominal_v),
            form=cell.form,
            code=_code(cell),
            capacity=amp_hours(cell.capacity_ah),
        ),
        look_for=tuple(look),
        leave=tuple(leave),
        price=cell.price,
    )


def _code(cell: Cell) -> str:
    """As it stands on such cells: 503450 for 5.0 x 34 x 50 mm, 18650 for 18 mm across and 65 high."""
    if not cell.size_mm:
        return ""
    first, *others = cell.size_mm
    if cell.form == "round":
        return f"{first:02.0f}{cell.size_mm[-1] * 10:03.0f}"
    return f"{first * 10:02.0f}" + "".join(f"{mm:02.0f}" for mm in others)


def _board_line(board: Board, chain: Chain) -> ShoppingLine:
    look: list[Message] = []
    leave: list[Message] = []
    if charger := board.charger:
        look.append(say("a single cell, end of charge {float_v}", float_v=volts(charger.float_v)))
        look.append(say("its charge-current resistor where an iron can reach it, marked on the picture"))
        leave.append(say("boards for two and more cells in series ({it} V)", it=fixed(8.4, 1)))
        if board.socket and board.socket.kind == "type_c":
            look.append(
                say("two resistors of {cc} beside the socket: else it stays dead on a C-to-C cable", cc=ohms(CC_OHM))
            )
    if board.protection:
        look.append(say("a protection that opens at {cut_v}, on this board", cut_v=volts(board.protection.cut_v)))
    elif board.charger and not (chain.build.cell and chain.build.cell.own_protection):
        look.append(say("no protection on it: this plan has one of its own"))
    if regulator := board.regulator:
        if regulator.v_set:
            look.append(say("fixed at {v_set}, or set and sealed before it goes in", v_set=volts(regulator.v_set)))
        if regulator.rated_a:
            look.append(say("{rated_a} without a heat sink", rated_a=amps(regulator.rated_a)))
        if regulator.auto_off_a is None and regulator.kind in ("boost", "buck_boost"):
            leave.append(say("power-bank boards that switch off at small currents"))
    return ShoppingLine(
        pieces=1,
        part=verbatim(board.name),
        size=_size(board.outline_mm),
        search=verbatim(board.name),
        look_for=tuple(look),
        leave=tuple(leave),
        price=board.price,
    )


def _resistor_line(wanted: Resistor) -> ShoppingLine:
    return ShoppingLine(
        pieces=1,
        part=say("resistor {r_ohm}", r_ohm=ohms(wanted.r_ohm)),
        search=say(
            "resistor {r_ohm} {tolerance} 0805, or leaded 1/4 W",
            r_ohm=ohms(wanted.r_ohm),
            tolerance=exact_percent(wanted.tolerance),
        ),
        look_for=(say("a bag of ten: the first one jumps off the tweezers"),),
        sold_by=RESISTORS_IN_A_BAG,
    )


def _size(size_mm: Iterable[float] | None) -> Message:
    return say("{size}", size=sizes(*size_mm, digits=None)) if size_mm else NOTHING
