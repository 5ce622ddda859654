"""Survey: figures that cannot both be right are asked back, and not believed."""

from collections.abc import Iterator

from pocketspark.core.chain import Chain, Running
from pocketspark.core.finding import Judgement
from pocketspark.core.message import say
from pocketspark.core.rules.rule import caution, note, rule
from pocketspark.core.units.figures import hours, volts


@rule(
    "survey.dark_window",
    station="survey",
    source="an LED lets next to nothing through under its forward voltage (its definition)",
    advice=say("Measure again down to which volts it gives light, or look up the forward voltage of its LEDs."),
)
def dark_window(chain: Chain) -> Iterator[Judgement]:
    """Lowest working volts, or design volts, under the forward voltage of the LEDs: one of the two is wrong."""
    gadget = chain.gadget
    if gadget.front_end != "led_resistor":
        return
    forward, known = volts(gadget.led_forward_v), gadget.behind.led_v is not None
    lowest = gadget.window.v_run_min if gadget.window else None
    if known and gadget.design_v <= gadget.led_forward_v:
        design = volts(gadget.design_v)
        yield caution(
            say("Its LEDs need {forward}, and it is said to be designed for {design}.", forward=forward, design=design),
            figure=design,
            limit=forward,
            working=say("At its design voltage it would be dark. One of the two is not right."),
            subjects=("gadget.behind.led_v",),
        )
    elif known and lowest is not None and lowest < gadget.led_forward_v:
        runs = volts(lowest)
        yield caution(
            say("It is said to work from {runs}, where LEDs of {forward} are dark.", runs=runs, forward=forward),
            figure=runs,
            limit=forward,
            working=say("The hours would be counted down to {runs}, the last of them without light.", runs=runs),
            rests_on=("gadget.window.v_run_min", "gadget.behind.led_v"),
        )


@rule(
    "survey.gauge_over_window",
    station="survey",
    source="how this tool counts: the gauge's own stop ends the run",
    advice=say("Measure again at which volts it switches itself off."),
)
def gauge_over_window(running: Running) -> Iterator[Judgement]:
    """A gauge that stops the gadget above its lowest volts: the run ends there, and a stop over full never starts."""
    gauge, window = running.gadget.gauge, running.chain.window
    if gauge is None or gauge.stop_v is None or gauge.stop_v <= window.v_run_min:
        return
    stops, lowest = volts(gauge.stop_v), volts(window.v_run_min)
    yield note(
        say("Its gauge stops it at {stops}, above the {lowest} that it works from.", stops=stops, lowest=lowest),
        figure=stops,
        limit=lowest,
        working=say("Every run is counted to {stops}.", stops=stops),
        rests_on=("gadget.gauge.stop_v",),
    )


@rule(
    "survey.converter_window",
    station="survey",
    source="a converter does not work under its least input (its definition)",
    advice=say("Lower a bench supply until the gadget stops, and enter those volts."),
)
def converter_window(chain: Chain) -> Iterator[Judgement]:
    """The gadget's own converter needs more than the lowest volts it is said to work at."""
    least, lowest = chain.gadget.behind.input_min_v, chain.gadget.window.v_run_min if chain.gadget.window else None
    if chain.gadget.front_end == "converter" and least is not None and lowest is not None and least > lowest:
        needs, runs = volts(least), volts(lowest)
        yield caution(
            say("It is said to work from {runs}, but the converter inside needs {needs}.", runs=runs, needs=needs),
            figure=runs,
            limit=needs,
            rests_on=("gadget.window.v_run_min",),
        )


@rule(
    "survey.hours_without_power",
    station="survey",
    source="a gadget that draws nothing does nothing",
    advice=say("Measure what it draws in this mode, or take its hours out."),
)
def hours_without_power(chain: Chain) -> Iterator[Judgement]:
    """A mode that is used for hours and draws nothing."""
    for mode in chain.gadget.modes:
        if mode.current_a == 0 and mode.hours_per_day > 0 and any(other.current_a > 0 for other in chain.gadget.modes):
            used = hours(mode.hours_per_day)
            yield note(
                say(
                    "Nothing is entered for what “{mode}” draws, and it is used {used} a day.",
                    mode=mode.name,
                    used=used,
                ),
                figure=used,
                subjects=(mode.name,),
            )
