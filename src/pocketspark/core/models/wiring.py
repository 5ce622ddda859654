"""How a build is joined: pads, wires between them, and parts that only the wiring needs."""

from typing import Annotated, Literal

from pydantic import Field

from pocketspark.core.models.model import Model, Row, Title, named_rows, written_like

# "charger.OUT+": the part's key and the pad as it is printed on it.
PadName = Annotated[
    str, written_like(r"[a-z][a-z0-9_]*\.[A-Za-z0-9+\-]{1,8}", "a pad is written like charger.OUT+: part, dot, pad")
]
ExtraKind = Literal["switch", "diode", "fuse", "link"]

ThermistorLead = Literal["kept", "resistor", "unneeded"]
THERMISTOR_LEADS: dict[ThermistorLead, str] = {
    "kept": "kept on the charger's sense pin",
    "resistor": "replaced by its fixed resistor",
    "unneeded": "not needed, and insulated",
}

EXTRA_KINDS: dict[ExtraKind, tuple[str, str]] = {
    "switch": ("Switch", "two contacts"),
    "diode": ("Diode", "from A to K"),
    "fuse": ("Fuse", "opens for good"),
    "link": ("Link", "a wire or jumper that was there already"),
}


class Wire(Row):
    """One connection. `present`: it is there already (a track, a contact strip), so no wire is cut for it."""

    start: PadName
    end: PadName
    present: bool = False


class ExtraPart(Model):
    """A part that stands in no list of boards: its key names it in wires."""

    key: Annotated[str, written_like(r"[a-z][a-z0-9_]{0,20}", "a key is small letters and digits, like main_switch")]
    kind: ExtraKind
    name: Title = "extra part"


class Wiring(Model):
    """A maker's own hook-up instead of the one the tool makes, and parts added to it."""

    wires: Annotated[tuple[Wire, ...], named_rows("wire"), Field(max_length=80)] | None = (
        None  # None: as the tool makes them
    )
    extra: tuple[ExtraPart, ...] = Field((), max_length=12)
    thermistor_lead: ThermistorLead | None = None  # what became of a thermistor lead
    case_touches: PadName | None = None  # a metal case lies on this pad's net
    socket_insulated: bool = False  # the socket's shell cannot touch a metal case
    sleeved: bool = False  # every bare joint of a lead is in heat shrink
    matched: bool = False  # paralleled cells were matched before they were joined
