"""What the first tenth of a second looks like after the gadget is switched on, and what it comes to."""

from collections.abc import Mapping

import numpy as np

from pocketspark.core.chain import Chain
from pocketspark.core.finding import Level, worst
from pocketspark.core.message import Message, _, say
from pocketspark.core.models import Project
from pocketspark.core.models.model import Model
from pocketspark.core.startup.first_moment import FirstMoment, Start, first_moment
from pocketspark.core.units.figures import ShownAmps, ShownVolts, amps, engineering

# How full the cells are that it is tried with.
CHARGES: Mapping[str, float] = {_("full cell"): 1.0, _("half full"): 0.5, _("nearly empty"): 0.1}

_SAYS: Mapping[Start, tuple[Level, str]] = {
    "starts": ("pass", _("It starts at once, and draws {first} at most.")),
    "starts late": ("note", _("It starts late: it draws {first} at most, and runs after {after}.")),
    "hiccups": (
        "caution",
        _("It hiccups: {first} at first open the protection, the gadget goes off, the protection closes, and so on."),
    ),
    "stays off": (
        "caution",
        _("It stays off: {first} at first open the protection, and only a charger or the switch closes it again."),
    ),
    "does not start": ("stop", _("It does not start: its volts never get to what it needs.")),
}
_HELPS: Mapping[Start, Message] = {
    "hiccups": say("A few ohms or a soft start before its capacitor, or a protection that trips later, lets it start."),
    "stays off": say("A few ohms before it, a soft start, or a protection that trips later, lets it start."),
}


class StartCurve(Model):
    """One cell: volts at the gadget and amperes out of the cell, at the times of the answer."""

    label: Message
    comes_to: Start
    level: Level
    says: Message
    first: ShownAmps
    gadget_v: tuple[float, ...]
    cell_a: tuple[float, ...]


class StartUp(Model):
    """The first moment of one mode with cells at several charges. `needs`: the least volts it runs on."""

    mode: str
    headline: Message
    level: Level
    help: Message
    needs: ShownVolts
    assumed: Message
    time_ms: tuple[float, ...]
    curves: tuple[StartCurve, ...]


def start_up(project: Project, build: int, mode: str = "") -> StartUp | None:
    """Of this mode by its id, else of the heaviest; None while none draws anything. Raises MissingPart."""
    chain = Chain(project, build)
    chosen = chain.required_running().chosen
    tried = next((one for one in chain.gadget.modes if one.id == mode), chain.heaviest)
    if tried is None or tried.current_a <= 0:
        return None
    rest_v = np.array([chosen.full_v if at == 1 else float(chosen.curve.at(at)) for at in CHARGES.values()])
    seen = first_moment(chain, tried, rest_v)
    curves = tuple(_curve(seen, row, label) for row, label in enumerate(CHARGES))
    level = worst(one.level for one in curves)
    gravest = next(one for one in curves if one.level == level)
    unknown = chain.gadget.capacitance_f is None
    return StartUp(
        mode=tried.name,
        headline=gravest.says if level == curves[0].level else _only(gravest),
        level=level,
        help=_HELPS.get(gravest.comes_to, say("")),
        needs=chain.window.v_run_min,
        assumed=say("Nobody has looked for a capacitor: it is taken as having none.") if unknown else say(""),
        time_ms=tuple(round(float(one) * 1000, 4) for one in seen.time_s),
        curves=curves,
    )


def _only(curve: StartCurve) -> Message:
    return say("{label}: {says}", label=say("With the cell {label}", label=curve.label), says=curve.says)


def _curve(seen: FirstMoment, row: int, label: str) -> StartCurve:
    comes_to = seen.comes_to[row]
    level, template = _SAYS[comes_to]
    first_a = float(seen.cell_a[row].max())
    after = engineering(max(seen.starts_s[row] or 0.0, 1e-5), "s", 2)
    return StartCurve(
        label=say(label),
        comes_to=comes_to,
        level=level,
        says=say(template, first=amps(first_a), after=after),
        first=first_a,
        gadget_v=tuple(round(float(one), 4) for one in seen.gadget_v[row]),
        cell_a=tuple(round(float(one), 5) for one in seen.cell_a[row]),
    )
