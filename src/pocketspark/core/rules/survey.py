"""Survey: is enough known about the gadget to judge anything?"""

from collections.abc import Iterator

from pocketspark.core.chain import Chain
from pocketspark.core.quantity import volts
from pocketspark.core.rules.rule import Verdict, note, passed, rule


@rule("survey.no_modes", station="survey", source="common practice, no source")
def no_modes(chain: Chain) -> Iterator[Verdict]:
    """Without a measured current there is no run time, no smallest voltage and no guard check."""
    if any(mode.current_a > 0 for mode in chain.gadget.modes):
        return
    yield note(
        "0 modes with a current: no run time can be told yet",
        working="Put a multimeter on its current range in series with the old batteries and switch the gadget on.",
    )


@rule("survey.window_inferred", station="survey", source="IEC 60086-2 sizes; voltages from memory")
def window_inferred(chain: Chain) -> Iterator[Verdict]:
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
        f"{', '.join(filter(None, ends))}: inferred from {supply.series} x {supply.battery}, not measured",
        working=(
            f"least {supply.cells_in_series} x {supply.facts.gadget_empty_v:.2f} V, "
            f"most {supply.cells_in_series} x {supply.facts.fresh_v:.2f} V fresh. "
            "A bench supply turned down slowly, then up no further than you dare, makes it measured."
        ),
        assumed=True,
    )
