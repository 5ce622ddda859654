"""What may be on a board. One entry is one feature, with all that the tool knows of it beside its own figures in
`models/board.py`: how a list of boards names it, which pads it brings, what those are in the circuit."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Literal

from pocketspark.core.kinds.regulators import kind_of
from pocketspark.core.message import NOTHING, Message, Value, row_of, say
from pocketspark.core.models.board import SOCKETS, Board
from pocketspark.core.units.figures import amps, sizes, volts, whole_volts

# What a pad is for in the circuit: the rules of wiring ask by these.
PadRole = Literal[
    "five_volts",
    "charger_minus",
    "battery_plus",
    "battery_side",  # minus, on the cell's side of a protection
    "load_plus",
    "load_side",  # minus, on the load's side of it
    "usb_out",
]
BoardPart = Literal["charger", "protection", "regulator", "board"]
Pair = tuple[str, str]


@dataclass
class BoardCircuit:
    """The pads of one board while its features add theirs. `through`: current runs there through something."""

    pads: list[str] = field(default_factory=list)
    joined: list[Pair] = field(default_factory=list)
    through: list[Pair] = field(default_factory=list)

    def add(self, *pads: str) -> None:
        self.pads += [pad for pad in pads if pad not in self.pads]

    @property
    def has_charger(self) -> bool:
        return "IN+" in self.pads and "B+" in self.pads


@dataclass(frozen=True)
class BoardFeature:
    """One feature. `part`: as what a board that has it is drawn."""

    is_on: Callable[[Board], bool]
    says: Callable[[Board], Value]
    wire: Callable[[Board, BoardCircuit], None] = lambda _board, _circuit: None
    pad_roles: Mapping[str, PadRole] = field(default_factory=dict)
    part: BoardPart | None = None


def circuit_of(board: Board) -> BoardCircuit:
    """Pads as such boards have them printed; see handbook 5 for which are one net inside."""
    circuit = BoardCircuit()
    for feature in features_of(board):
        feature.wire(board, circuit)
    if not circuit.pads:
        circuit = BoardCircuit(["IN+", "IN-", "OUT+", "OUT-"], [("IN-", "OUT-")])
    return circuit


def roles_of(board: Board) -> dict[str, PadRole]:
    """What each of its pads is for, as far as it matters to a rule."""
    return {pad: role for feature in features_of(board) for pad, role in feature.pad_roles.items()}


def features_of(board: Board) -> list[BoardFeature]:
    return [feature for feature in BOARD_FEATURES.values() if feature.is_on(board)]


def part_of(board: Board) -> BoardPart:
    """As which part of the circuit it is drawn: by the first of its features that makes it one."""
    return next((feature.part for feature in features_of(board) if feature.part), "board")


def in_a_list(board: Board) -> Message:
    """One line that tells the board from its neighbours."""
    said = [feature.says(board) for feature in features_of(board)]
    size = sizes(*board.outline_mm, digits=None) if board.outline_mm else NOTHING
    return row_of((*said, size))


# Each feature ----------------------------------------------------------------------------------------------------


def _charger_says(board: Board) -> Message:
    assert board.charger is not None
    said = [
        say("K {k_volts}, {rated_a}", k_volts=whole_volts(board.charger.k_volts), rated_a=amps(board.charger.rated_a)),
        say("ends at {float_v}", float_v=volts(board.charger.float_v)),
    ]
    said += [] if board.socket else [say("pads only")]
    said += [] if board.protection else [say("no protection")]
    return row_of(said)


def _wire_charger(_board: Board, circuit: BoardCircuit) -> None:
    circuit.add("IN+", "IN-", "B+", "B-")
    circuit.joined.append(("IN-", "B-"))


def _protection_says(board: Board) -> Message:
    assert board.protection is not None
    return say("protection, opens at {cut_v}", cut_v=volts(board.protection.cut_v))


def _wire_protection(_board: Board, circuit: BoardCircuit) -> None:
    if not circuit.has_charger:
        circuit.add("B+", "B-", "P+", "P-")
        circuit.joined.append(("B+", "P+"))
        circuit.through.append(("B-", "P-"))
        return
    # The transistors stand between B- and the ground of everything else; the plus side is one net.
    circuit.add("OUT+", "OUT-")
    circuit.joined[:] = [("B+", "OUT+"), ("IN-", "OUT-")]
    circuit.through.append(("B-", "OUT-"))


def _wire_load_sharing(_board: Board, circuit: BoardCircuit) -> None:
    """The gadget hangs on 5 V or on the cell, by a transistor of the board's own."""
    if not circuit.has_charger:
        return
    if "OUT+" not in circuit.pads:
        circuit.add("OUT+", "OUT-")
        circuit.joined.append(("IN-", "OUT-"))
    circuit.joined[:] = [pair for pair in circuit.joined if pair != ("B+", "OUT+")]
    circuit.through.append(("B+", "OUT+"))


def _wire_usb_out(_board: Board, circuit: BoardCircuit) -> None:
    if circuit.has_charger:
        circuit.add("U+", "U-")
        circuit.joined.append(("U-", "OUT-" if "OUT-" in circuit.pads else "IN-"))


def _regulator_says(board: Board) -> Message:
    assert board.regulator is not None
    gives = volts(board.regulator.v_set) if board.regulator.v_set else NOTHING
    return row_of((kind_of(board.regulator).label, gives))


def _wire_regulator(board: Board, circuit: BoardCircuit) -> None:
    """On a charger board it stands behind that board's OUT, with no pads of its own between."""
    assert board.regulator is not None
    if circuit.pads:
        return
    pads = kind_of(board.regulator).pads
    circuit.add(*pads.names)
    circuit.joined += pads.joined
    circuit.through += pads.through


_CHARGER_PADS: Mapping[str, PadRole] = {
    "IN+": "five_volts",
    "IN-": "charger_minus",
    "B+": "battery_plus",
    "B-": "battery_side",
    "OUT+": "load_plus",
    "OUT-": "load_side",
}

# In this order they add their pads.
BOARD_FEATURES: dict[str, BoardFeature] = {
    "charger": BoardFeature(
        lambda board: board.charger is not None,
        _charger_says,
        _wire_charger,
        _CHARGER_PADS,
        "charger",
    ),
    "protection": BoardFeature(
        lambda board: board.protection is not None,
        _protection_says,
        _wire_protection,
        {"B+": "battery_plus", "B-": "battery_side", "P+": "load_plus", "P-": "load_side"},
        "protection",
    ),
    "load_sharing": BoardFeature(lambda board: board.load_sharing, lambda _board: "load sharing", _wire_load_sharing),
    "usb_out": BoardFeature(
        lambda board: board.usb_out_pads, lambda _board: "USB out pads", _wire_usb_out, {"U+": "usb_out"}
    ),
    "regulator": BoardFeature(
        lambda board: board.regulator is not None, _regulator_says, _wire_regulator, part="regulator"
    ),
    "socket": BoardFeature(
        lambda board: board.socket is not None,
        lambda board: SOCKETS[board.socket.kind] if board.socket else "",
    ),
}
