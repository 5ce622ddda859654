"""The ways in which 5 V may reach the charger board. One entry is one way, with all that the tool asks about it."""

from dataclasses import dataclass


@dataclass(frozen=True)
class InputKind:
    """One way in.

    `brings` and `probes`: what brings the 5 V, and where the meter goes to prove it; empty where the board's own socket
    does. `asks`: which figures of the build's input count. `over_a_gap`: power crosses air, with loss and heat inside.
    `own_socket`: a Type-C socket on a plate of its own goes into the bay.
    """

    label: str
    detail: str
    on_board: bool = False
    over_a_gap: bool = False
    own_socket: bool = False
    brings: str = ""
    probes: str = ""
    buys: tuple[tuple[str, str], ...] = ()  # lines of the bill: part, remark
    asks: tuple[str, ...] = ()

    @property
    def opens_a_wall(self) -> bool:
        """A hole is cut for its socket."""
        return self.on_board or self.own_socket


INPUTS: dict[str, InputKind] = {
    "board_socket": InputKind("Socket on the board", "through an opening in the wall", on_board=True),
    "wired_socket": InputKind(
        "A socket of its own",
        "Type-C on a small plate, wired to the board's 5 V pads",
        own_socket=True,
        brings="the socket on its plate",
        probes="at the plate's pads, cable plugged in, both ways round",
        buys=(("Type-C socket on a plate", "with 5100 ohm from each CC pin to ground"),),
    ),
    "old_jack": InputKind(
        "The gadget's old jack",
        "wired to the charger board's 5 V pads",
        brings="the adapter at the old jack",
        probes="centre pin to sleeve, adapter plugged in, nothing else on it",
        asks=("centre", "regulated", "open_v"),
    ),
    "dock": InputKind(
        "Dock contacts",
        "5 V from a base",
        brings="the base at its contacts",
        probes="contact to contact, on the base, the gadget away",
    ),
    "wireless": InputKind(
        "Wireless pad",
        "a receiver coil under the shell",
        over_a_gap=True,
        brings="the receiver pad on its base",
        probes="at the pad's output, coil over coil, ferrite in place",
        buys=(("wireless receiver pad, 5 V", ""), ("ferrite sheet", "between coil and cell")),
        asks=("pad_efficiency", "pad_ferrite", "pad_against_cell"),
    ),
}
