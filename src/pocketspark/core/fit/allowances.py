"""What parts need beside their bare bodies: swell, air, bends of wires, shells of sockets. Figures of the trade, mm."""

from collections.abc import Mapping

from pocketspark.core.models import Board
from pocketspark.core.models.board import SocketKind
from pocketspark.core.models.build import CellLead

# A pouch swells over its life (common practice, no source), and its fold and tabs take length.
SWELL_SHARE = 0.10
TABS_MM = 2.0
# Real round cells run over their code (common practice, no source).
ROUND_OVER_MM = 0.4
# A protection board folded onto the end of a pouch (common practice, no source).
FOLDED_PROTECTION_MM = 1.0
# Air (common practice, no source): tape or foam round boards, small parts; a pouch has its swell instead.
BOARD_GAP_MM, CELL_GAP_MM, SMALL_GAP_MM = 0.5, 0.0, 0.2
# A rib or block that takes the push of the plug is at least so thick (common practice, no source).
STOP_MM = 2.0
# Between a board and its printed cradle, on either side (common practice, no source).
CRADLE_SLACK_MM = 0.15
# Springs, posts and ribs keep off a pouch by so much: it swells against them (common practice, no source).
HARD_TO_POUCH_MM = 0.5
# Solder and the bend of a wire at the pads' end of a board (common practice, no source).
WIRE_ROOM_MM = 2.0
# Receiver pad with its ferrite sheet, where nothing better is known (common practice, no source).
PAD_MM = (40.0, 30.0, 1.5)
# A Type-C socket on a plate with its two resistors, without its wires (from memory of such plates).
WIRED_SOCKET_MM = (8.0, 10.0, 4.2)
WIRED_SOCKET, PLATE_MM = "socket", 1.0
# A plug in its socket on the cell's lead, wires' bend included (from memory of such connectors' drawings).
CELL_PLUG_MM: Mapping[CellLead, tuple[float, float, float]] = {
    "small_plug": (10.0, 4.5, 3.4),
    "common_plug": (13.0, 6.0, 4.8),
}
# Height of a socket over its board, from memory: Type-C, Micro-B and Mini-B shells.
SOCKET_HEIGHT_MM: Mapping[SocketKind, float] = {"type_c": 3.2, "micro_b": 2.8, "mini_b": 3.9}
# What stays on a board whose socket's shell is taken off, where nobody has measured it: chip and coil, as a rule.
WITHOUT_SOCKET_MM = 1.6
# A part that stands this far over the socket's shell is no socket.
OVER_SOCKET_MM = 0.3


def board_height_mm(board: Board, *, socket_off: bool = False) -> float:
    """Height over everything: from the outline, and from the parts on it where `above_mm` says more.

    With the socket off what is left is the tallest other part: `above_mm` where that is not the socket's own height;
    the outline, if something stands higher than the socket did; else what is usual.
    """
    assert board.outline_mm is not None
    height = max(board.outline_mm[2], board.pcb_mm + (board.above_mm or 0.0))
    if board.socket is None or not socket_off:
        return height
    shell_mm = SOCKET_HEIGHT_MM[board.socket.kind]
    if board.above_mm is not None and board.above_mm < shell_mm - OVER_SOCKET_MM:
        return board.pcb_mm + board.above_mm
    other_is_tallest = height > board.pcb_mm + shell_mm + OVER_SOCKET_MM
    return height if other_is_tallest else min(height, board.pcb_mm + WITHOUT_SOCKET_MM)
