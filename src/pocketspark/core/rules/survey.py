"""Survey: is enough known about the gadget to judge anything?"""

from collections.abc import Iterator

from pocketspark.core.chain import Chain
from pocketspark.core.models.gadget import EXISTING_CHARGING, PURPOSES
from pocketspark.core.rules.rule import Judgement, caution, note, passed, remedy, rule, stop
from pocketspark.core.units.quantity import volts


@rule("survey.no_modes", station="survey", source="common practice, no source")
def no_modes(chain: Chain) -> Iterator[Judgement]:
    """Without a measured current there is no run time, no smallest voltage and no protection check."""
    if any(mode.current_a > 0 for mode in chain.gadget.modes):
        return
    yield note(
        "0 modes with a current: no run time can be told yet",
        working="Put a multimeter on its current range in series with the old batteries and switch the gadget on.",
    )


@rule("survey.window_inferred", station="survey", source="IEC 60086-2 sizes; voltages from memory")
def window_inferred(chain: Chain) -> Iterator[Judgement]:
    """A window inferred from the old batteries is soft; a bench supply turns it into a measured one."""
    window, supply = chain.window, chain.gadget.supply
    soft = [basis for basis in (window.min_basis, window.max_basis) if basis == "inferred"]
    if not soft:
        yield passed(f"Works from {volts(window.v_run_min)} to {volts(window.v_abs_max)}, as measured or stated")
        return
    ends = [
        f"{volts(window.v_run_min)} at least" if window.min_basis == "inferred" else "",
        f"{volts(window.v_abs_max)} at most" if window.max_basis == "inferred" else "",
    ]
    yield note(
        f"{', '.join(filter(None, ends))}: inferred from {supply.label}, not measured",
        working=(
            f"least {supply.empty_v:.2f} V where such a gadget gives up, most {supply.fresh_v:.2f} V fresh. "
            "A bench supply turned down slowly, then up no further than you dare, makes it measured."
        ),
        assumed=True,
    )


@rule("survey.not_to_be_converted", station="survey", source="common practice; local rules and the maker prevail")
def not_to_be_converted(chain: Chain) -> Iterator[Judgement]:
    """Some things are not converted at all: life safety, medical, small children, explosive air, aviation."""
    purpose = chain.gadget.purpose
    if purpose is None:
        yield note(
            "1 question first: is it only an ordinary gadget?",
            working="Alarms, medical things, toys for small children, explosive air and aviation are never converted.",
            remedy=remedy("It is an ordinary gadget", {"gadget.purpose": "ordinary"}),
        )
    elif purpose != "ordinary":
        label, why = PURPOSES[purpose]
        yield stop(f"0 conversions of this kind: {label.lower()}", working=f"{why[0].upper()}{why[1:]}.")
    else:
        yield passed("An ordinary gadget: nobody is hurt when it fails")


@rule("survey.existing_charging_live", station="survey", source="common practice, no source")
def existing_charging_live(chain: Chain) -> Iterator[Judgement]:
    """An old jack, dock or contact that feeds the battery terminals has no voltage limit for lithium."""
    existing_charging = chain.gadget.existing_charging
    if existing_charging.kind == "none":
        return
    label = EXISTING_CHARGING[existing_charging.kind][0].lower()
    limited = existing_charging.kind == "lithium_charger"
    if existing_charging.treatment in ("cut", "moved"):
        yield passed(f"1 old charge path, {existing_charging.treatment}: {label}")
    elif existing_charging.treatment == "diode":
        yield note(
            f"1 diode blocks the {label}; it costs its forward voltage on the way to the gadget",
            working="A Schottky: 0.25 to 0.45 V less at the gadget, reckoned with in every figure of the run.",
        )
    elif limited and existing_charging.treatment == "kept":
        yield passed(f"1 charge path kept: {label}", working="The cell swap checks its voltage and current.")
    elif limited:
        yield caution(
            f"2 chargers on one cell: the gadget's own {label} is still connected",
            working="Keep it and leave the new board out (cell swap), or cut it.",
            remedy=remedy("Cut it", {"gadget.existing_charging.treatment": "cut"}),
        )
    elif existing_charging.treatment == "never_plugged_in":
        yield caution(
            f"0 V may ever be plugged into the {label}: printed on the sheet, somebody else will",
            working="It has no voltage limit: plugged in once with lithium behind it, it over-charges the cell.",
            remedy=remedy("Cut it instead", {"gadget.existing_charging.treatment": "cut"}),
        )
    else:
        yield stop(
            f"0 limits on the {label}: it pushes charge past {volts(chain.full_v if chain.has_cell else 4.2)}",
            working="Made for NiMH or NiCd, or for nothing. Cut it, move it, or block it with a diode.",
            remedy=remedy("Cut it", {"gadget.existing_charging.treatment": "cut"}),
        )


@rule("survey.own_lamp", station="survey", source="common practice, no source")
def own_lamp(chain: Chain) -> Iterator[Judgement]:
    """A gadget whose own lamp judged NiMH by its volts shows full at once with lithium behind it."""
    supply = chain.gadget.supply
    charges = chain.gadget.existing_charging.kind in ("trickle_jack", "dock", "contacts")
    if charges and supply.kind != "lithium" and supply.chemistry == "nimh":
        yield note(
            f"{volts(supply.fresh_v)} was full for its own charge lamp: with lithium it says full at once",
            working="Believe the lamp of the charger board only.",
        )
