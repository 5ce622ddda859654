"""Single faults in words: what it is, what it reaches, what stops it, how it shows, how it comes about by hand."""

from collections.abc import Iterator, Mapping
from typing import Literal

from pocketspark.core.chain import Chain
from pocketspark.core.faults.fault import CLOSE_MM, Fault, FaultKind
from pocketspark.core.faults.outcome import Opened
from pocketspark.core.faults.reach_of_fault import GRAVITY, ORDER, Gravity, Reached, ReachedKind, Seen
from pocketspark.core.faults.situation import SituationKey
from pocketspark.core.finding import Level
from pocketspark.core.hookup.hookup import HookUp
from pocketspark.core.message import Listed, Message, Value, _, all_of, as_message, once, say
from pocketspark.core.units.figures import amps, millimetres, volts

Chance = Literal["likely", "possible", "rare"]
CHANCES: tuple[Chance, ...] = ("likely", "possible", "rare")

SITUATIONS: Mapping[SituationKey, str] = {
    "used": _("in use"),
    "unused": _("switched off"),
    "flat": _("in use, its cell empty"),
    "charging": _("charging"),
    "charging_used": _("charging, in use"),
    "over_full": _("left plugged in, its cell full"),
    "stuck_charger": _("with a charger that never ends"),
    "shorted": _("with a short at the gadget"),
}

_TITLES: Mapping[FaultKind, str] = {
    "joint_open": _("The wire from {first} to {second} comes off at one end"),
    "pads_joined": _("{first} and {second} meet"),
    "wire_on_case": _("The wire at {first} touches the metal case"),
    "part_shorted": _("The {first} is a short inside"),
    "part_open": _("The {first} lets nothing through"),
    "cannot_stop_discharge": _("The discharge transistor of the {first} is a short"),
    "cannot_stop_charge": _("The charge transistor of the {first} is a short"),
    "does_not_wake": _("The protection of the {first} stays off after it is connected"),
    "charger_stuck_on": _("The transistor of the {first} is a short: it charges without end"),
    "resistor_open": _("The charge-current resistor of the {first} has come off"),
    "resistor_shorted": _("Solder bridges the charge-current resistor of the {first}"),
    "cell_reversed": _("The leads of the {first} are swapped"),
    "cells_unlike": _("{first} is full and {second} empty when they are joined"),
    "old_adapter": _("Somebody plugs in the old adapter"),
}

_REACHES: Mapping[ReachedKind, str] = {
    "over_charged": _("The full {first} goes on being charged, with {value}."),
    "cell_gives_too_much": _("The {first} gives {value}, and may give {limit}."),
    "cell_takes_too_much": _("The {first} is charged with {value}, and may take {limit}."),
    "wire_too_hot": _("The wire from {first} to {second} carries {value}; it is made for {limit}."),
    "cut_lost": _("Nothing shows. A charger that never ends would over-charge the cell, and nothing would open."),
    "short_not_cut": _("Nothing shows. A short at the gadget would not be cut off."),
    "drained": _("The empty {first} is drained on, under {lost}, and is lost."),
    "gadget_over": _("The gadget gets {value}, and stands {limit}."),
    "gadget_reversed": _("The gadget gets its volts the wrong way round."),
    "board_reversed": _("The {first} gets its volts the wrong way round, and is destroyed."),
    "charger_over": _("The {first} gets {value}, and stands {limit}."),
    "does_not_run": _("It does not run."),
    "does_not_charge": _("It does not charge."),
    "never_settles": _("It starts and stops again and again."),
}
# What a fault comes to, in two words, and as a finding that grave is marked.
GRAVITIES: Mapping[Gravity, tuple[str, Level]] = {
    "danger": (_("Dangerous"), "stop"),
    "hidden": (_("Takes a safeguard away, unseen"), "caution"),
    "harm": (_("Harms a part"), "caution"),
    "dead": (_("Stops working"), "note"),
    "none": (_("Harmless"), "pass"),
}
_IN_VOLTS: tuple[ReachedKind, ...] = ("gadget_over", "charger_over")


class Names:
    """Parts and pads as the drawing of the hook-up has them."""

    def __init__(self, hookup: HookUp) -> None:
        self._extra = {key: hookup.parts.by_key[key].name for key in hookup.parts.extra}

    def part(self, key: str) -> str:
        return self._extra.get(key, key.replace("_", " "))

    def of(self, at: str) -> str:
        """ "charger OUT+", or a part by itself."""
        key, _dot, pad = at.partition(".")
        return f"{self.part(key)} {pad}".rstrip()


def title_of(fault: Fault, names: Names) -> Message:
    values = dict(zip(("first", "second"), map(names.of, fault.at), strict=False))
    return _capital(say(_TITLES[fault.kind], **values))


def reaches_of(seen: Seen, names: Names, lost_v: float) -> tuple[Message, ...]:
    """Each once, with the figure that weighs most; what only a second fault would show where nothing else is."""
    highest: dict[tuple[ReachedKind, str], Reached] = {}
    for one in seen.reached:
        if GRAVITY[one.kind] == "hidden" and seen.gravity != "hidden":
            continue
        kept = highest.setdefault((one.kind, one.subject), one)
        if one.weight > kept.weight:
            highest[one.kind, one.subject] = one
    in_order = sorted(highest.values(), key=lambda one: ORDER.index(GRAVITY[one.kind]))
    return once(_reach(one, names, lost_v) for one in in_order)


def _reach(one: Reached, names: Names, lost_v: float) -> Message:
    figure = volts if one.kind in _IN_VOLTS else amps
    values: dict[str, Value] = {"value": figure(one.value), "limit": figure(one.limit), "lost": volts(lost_v)}
    values |= dict(zip(("first", "second"), map(names.of, one.subject.split(" ")), strict=False))
    return say(_REACHES[one.kind], **values)


def opened_of(seen: Seen, names: Names) -> Message:
    """What opens, and how much flows until then."""
    who = once(_opened(one, names) for _situation, one in seen.opened if one.why != "empty")
    if not who:
        return say("Nothing opens.")
    if seen.first_a > 1:
        return say("{who}; until then {first} flow.", who=_capital(all_of(who)), first=amps(seen.first_a))
    return say("{who}.", who=_capital(all_of(who)))


def _capital(text: Message) -> Message:
    return as_message(Listed((text,), "Aa"))


def _opened(one: Opened, names: Names) -> Message:
    if one.who == "fuse":
        return say("the fuse opens")
    if one.who == "port":
        return say("the port gives its most, or switches off")
    if one.who == "protection":
        return say("the protection opens")
    return say("the protection of the {part} opens", part=names.part(one.who))


# How it shows ------------------------------------------------------------------------------------------------------


def shows_of(seen: Seen) -> Message:
    """What a maker would notice, or which reading finds it where nothing shows."""
    kinds = {one.kind for one in seen.reached}
    if kinds & {"cell_gives_too_much", "wire_too_hot"}:
        return say("Wires and cell get hot at once: part the cell's lead, and take it outside.")
    if "board_reversed" in kinds:
        return say("The board gets hot at once. Measure the polarity before the cell is connected.")
    if kinds & {"over_charged", "gadget_over", "charger_over", "cell_takes_too_much"}:
        return say("Nothing to see at first. Readings show it: the charge current, and the volts at the end of charge.")
    if seen.gravity == "hidden":
        return say("By nothing. Only a reading finds it: from B- to the load's minus with the cell apart, no contact.")
    signs = [text for kind, text in _SEEN.items() if kind in kinds]
    return say("{signs}.", signs=_capital(all_of(signs))) if signs else say("By nothing.")


_SEEN: Mapping[ReachedKind, Message] = {
    "does_not_run": say("it stays dead"),
    "does_not_charge": say("its lamp says that nothing is charged"),
    "never_settles": say("it flickers"),
}


# How it comes about ------------------------------------------------------------------------------------------------


def chance_of(chain: Chain, fault: Fault, probed: frozenset[str]) -> tuple[Chance, Message]:
    """How likely by hand, and why (common practice, no source)."""
    return next(_chances(chain, fault, probed))


def _chances(chain: Chain, fault: Fault, probed: frozenset[str]) -> Iterator[tuple[Chance, Message]]:
    if fault.kind == "joint_open":
        moves = any(at.startswith(("cell", "gadget")) for at in fault.at)
        if chain.build.input.facts.on_board and any(at.startswith("source") for at in fault.at):
            yield "likely", say("The plug is pushed and pulled there.")
        if moves:
            yield "likely", say("It bends whenever the lid is opened.")
        yield "possible", say("Two joints that nothing moves.")
    if fault.kind == "pads_joined":
        if fault.apart_mm is not None and fault.apart_mm <= CLOSE_MM:
            yield "likely", say("They are {apart} apart: one slip of solder.", apart=millimetres(fault.apart_mm))
        if any(at in probed for at in fault.at):
            yield "likely", say("A meter's probe is held there while it is live.")
        yield "possible", say("A slip of solder, a probe or a loose strand.")
    if fault.kind == "wire_on_case":
        yield "likely", say("Any bare end reaches it.")
    if fault.kind == "cell_reversed":
        plugged = chain.build.cell_lead != "soldered"
        yield "likely", say("Plugs are not made to one rule.") if plugged else say("Both leads are of one length.")
    if fault.kind in ("old_adapter", "cells_unlike"):
        yield "likely", say("It still fits.") if fault.kind == "old_adapter" else say("Nobody has matched them.")
    if fault.kind == "does_not_wake":
        yield "likely", say("Many stay off until 5 V come for a moment.")
    if fault.kind in ("resistor_open", "resistor_shorted"):
        yield "possible", say("It is changed by hand, and small.")
    yield "rare", say("The part itself has to fail.")
