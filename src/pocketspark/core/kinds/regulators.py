"""The kinds of regulator: what may stand between protection and gadget. One object is one kind, and knows all of it.

A kind says which figures of a `Regulator` count, by which law it works, which pads it has, how a circuit simulator
reads it, and how it ranks beside the others. A new kind is one class here and one entry in `KINDS`.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from pocketspark.core.message import Message, say
from pocketspark.core.models.board import REGULATORS, Regulator
from pocketspark.core.physics import regulator_laws as laws
from pocketspark.core.physics.load import Load
from pocketspark.core.units.figures import amps, fixed
from pocketspark.core.units.reading import reading

# Figures that a maker may fill in, in the order of a data sheet.
_ALWAYS = ("rated_a", "v_in_max")
_SETTABLE = ("v_set", "i_set_a", *_ALWAYS, "iq_a", "has_enable", "iq_off_a")
_CONVERTER = (*_SETTABLE, "efficiency", "v_in_min", "fixed_loss_w", "input_ohm", "switching_hz", "auto_off_a")

# Freely; by the diode that lies across its transistor; or not at all.
LetsBack = Literal["freely", "by_its_diode", "not"]


@dataclass(frozen=True)
class Pads:
    """Pads of a regulator in the order they are drawn: which go in and out, which are one net, what runs through."""

    names: tuple[str, ...] = ("IN+", "IN-", "OUT+", "OUT-")
    plus_in: str = "IN+"
    plus_out: str = "OUT+"
    minus_in: str | None = "IN-"
    minus_out: str | None = "OUT-"

    @property
    def joined(self) -> tuple[tuple[str, str], ...]:
        return ((self.minus_in, self.minus_out),) if self.minus_in and self.minus_out else ()

    @property
    def through(self) -> tuple[tuple[str, str], ...]:
        return ((self.plus_in, self.plus_out),)


@dataclass(frozen=True)
class RegulatorKind:
    """Nothing between protection and gadget: the plainest kind, and the base of the others.

    `plainness`: how much of its run time counts when kinds are ranked; what is one more part to fit, and may hum, has
    to run longer to come first (our judgement, no source). `switches`: it may be heard in audio and radio.
    `steps_up`: it draws most when the cell has least. `lets_back`: how current that another source pushes into its
    output gets to the cell (common practice, no source).
    """

    key: str = "none"
    label: str = "none"
    detail: str = "straight from the cell"
    fields: tuple[str, ...] = ()
    plainness: float = 1.0
    switches: bool = False
    steps_up: bool = False
    pads: Pads = Pads()
    lets_back: LetsBack = "not"

    @property
    def is_settable(self) -> bool:
        """Does it hold a voltage that is set?"""
        return "v_set" in self.fields

    def fault(self, regulator: Regulator) -> Message | None:
        """What is not set that its kind needs; None where nothing is missing."""
        if self.is_settable and not regulator.v_set:
            return say("Enter the voltage (v_set) that a {kind} gives", kind=self.label)
        if not 0.3 <= regulator.efficiency <= 1:
            return say("Enter an efficiency from 30 to 100 %")
        return None

    def law(self, regulator: Regulator) -> laws.RegulatorLaw:
        return laws.Straight()

    def short(self, regulator: Regulator) -> str:
        """Its figure on the power path."""
        if regulator.i_set_a:
            return amps(regulator.i_set_a).text(reading())
        return f"{fixed(regulator.v_set, 1)} V" if regulator.v_set else self.label

    def spice(self, regulator: Regulator, node: str, out: str) -> list[str]:
        """What stands between these two nodes, as ngspice reads it."""
        return [f"Rregulator {node} {out} 1e-4"]


@dataclass(frozen=True)
class _DroppingResistor(RegulatorKind):
    def fault(self, regulator: Regulator) -> Message | None:
        return None if regulator.series_ohm else say("Enter the resistance (series_ohm) of the dropping resistor")

    def law(self, regulator: Regulator) -> laws.RegulatorLaw:
        return laws.DroppingResistor(regulator)

    def spice(self, regulator: Regulator, node: str, out: str) -> list[str]:
        return [f"Rregulator {node} {out} {regulator.series_ohm:.6g}"]


@dataclass(frozen=True)
class _Diode(RegulatorKind):
    def fault(self, regulator: Regulator) -> Message | None:
        if regulator.n < 0.5 or regulator.is_a <= 0:
            return say("Enter a saturation current above 0 and an emission coefficient near 1 for the diode")
        return None

    def law(self, regulator: Regulator) -> laws.RegulatorLaw:
        return laws.SeriesDiode(regulator)

    def spice(self, regulator: Regulator, node: str, out: str) -> list[str]:
        model = f".model dregulator d is={regulator.is_a:.6g} n={regulator.n:.6g} rs={regulator.rs_ohm:.6g}"
        return [model, f"Dregulator {node} {out} dregulator"]


@dataclass(frozen=True)
class _Ldo(RegulatorKind):
    def law(self, regulator: Regulator) -> laws.RegulatorLaw:
        return laws.LinearRegulator(regulator)

    def spice(self, regulator: Regulator, node: str, out: str) -> list[str]:
        held = f"min({regulator.v_set}, V({node}) - {regulator.drop_v:.6g} - {regulator.drop_ohm:.6g} * I(Vsense))"
        return [
            _limited(regulator, held) if regulator.i_set_a else f"Bregulator x 0 V={held}",
            f"Vsense x {out} 0",
            f"Fregulator {node} 0 Vsense 1",
            f"Iq {node} 0 {regulator.iq_a:.6g}",
        ]


@dataclass(frozen=True)
class _Converter(RegulatorKind):
    converter: type[laws.Converter] = laws.Converter

    def law(self, regulator: Regulator) -> laws.RegulatorLaw:
        return self.converter(regulator)

    def spice(self, regulator: Regulator, node: str, out: str) -> list[str]:
        """A converter holds its setting, and draws what that takes as constant power."""
        assert regulator.v_set is not None  # refused by `fault`
        out_w = f"max({'V(x)' if regulator.i_set_a else f'{regulator.v_set:.6g}'} * I(Vsense), 0)"
        loss_w = regulator.fixed_loss_w
        power = f"({out_w} / {regulator.efficiency:.6g} + {loss_w:.6g} * {out_w} / ({out_w} + {loss_w + 1e-12:.6g}))"
        return [
            _limited(regulator, f"{regulator.v_set:.6g}") if regulator.i_set_a else f"Vset x 0 {regulator.v_set:.6g}",
            f"Vsense x {out} 0",
            f"Rinput {node} conv {max(regulator.input_ohm, 1e-6):.6g}",
            f"Bconv conv 0 I={regulator.iq_a:.6g} + {power} / max(V(conv), 1.5)",
            ".nodeset v(conv)=3.6",
        ]


@dataclass(frozen=True)
class _StepDown(_Converter):
    def spice(self, regulator: Regulator, node: str, out: str) -> list[str]:
        """The same until its input is no longer above its setting: then it passes that, over its transistor."""
        passed = f"V(conv) - {regulator.drop_ohm:.6g} * I(Vsense)"
        held, passes = f"min({regulator.v_set:.6g}, {passed})", f"{passed} < {regulator.v_set:.6g}"
        if regulator.i_set_a:
            passes = f"({passes}) && (I(Vsense) < {0.999 * regulator.i_set_a:.6g})"
        return _passing(super().spice(regulator, node, out), regulator, held, passes)


@dataclass(frozen=True)
class _StepUp(_Converter):
    def spice(self, regulator: Regulator, node: str, out: str) -> list[str]:
        """The same until its input, less the diode on the way, is above its setting: then it passes that."""
        passed = f"V(conv) - {laws.PASS_THROUGH_V:.6g}"
        held, passes = f"max({regulator.v_set:.6g}, {passed})", f"{passed} > {regulator.v_set:.6g}"
        lines = _passing(super().spice(regulator, node, out), regulator, held, passes)
        if not regulator.i_set_a:
            return lines
        # What passes through is not limited any more.
        limited, through = _limited_a(regulator, f"{regulator.v_set:.6g}"), f"{_STIFF} * ({passed} - V(x))"
        converts = next(line for line in lines if line.startswith("Bconv")).replace(passes, f"{through} > {limited}")
        changed = {"Bset": f"Bset 0 x I=max({limited}, {through})", "Bconv": converts}
        return [changed.get(line.split(" ", 1)[0], line) for line in lines]


# Siemens by which a simulated driver holds its ceiling: a milliohm.
_STIFF = 1000.0


def _limited_a(regulator: Regulator, held: str) -> str:
    return f"min({regulator.i_set_a:.6g}, {_STIFF} * (({held}) - V(x)))"


def _limited(regulator: Regulator, held: str) -> str:
    """A driver's output: the current it is set to, and less where that would take more volts than it can give."""
    return f"Bset 0 x I={_limited_a(regulator, held)}"


def _passing(converter: Sequence[str], regulator: Regulator, held: str, passes: str) -> list[str]:
    """A converter's lines changed: its output is `held` there, and where it `passes` its input it converts nothing."""
    converts = next(line for line in converter if line.startswith("Bconv")).split("I=", 1)[1]
    changed = {
        "Vset": f"Bset x 0 V={held}",
        "Bset": _limited(regulator, held) if regulator.i_set_a else "",
        "Bconv": f"Bconv conv 0 I=({passes}) ? ({regulator.iq_a:.6g} + I(Vsense)) : ({converts})",
    }
    return [changed.get(line.split(" ", 1)[0], line) for line in converter]


_IN_LINE = Pads(("A", "K"), "A", "K", None, None)
_TWO_ENDS = Pads(("1", "2"), "1", "2", None, None)

KINDS: Mapping[str, RegulatorKind] = {
    kind.key: kind
    for kind in (
        RegulatorKind(lets_back="freely"),
        _DroppingResistor(
            "resistor",
            "dropping resistor",
            "for LEDs and lamps",
            ("series_ohm",),
            0.97,
            pads=_TWO_ENDS,
            lets_back="freely",
        ),
        _Diode("diode", "series diode", "takes its forward voltage", ("n", "is_a", "rs_ohm"), 0.95, pads=_IN_LINE),
        _Ldo(
            "ldo",
            "LDO",
            "a linear regulator with little headroom",
            (*_SETTABLE, "drop_ohm", "drop_v"),
            0.9,
            lets_back="by_its_diode",
        ),
        _StepDown(
            "buck",
            "buck",
            "steps down",
            (*_CONVERTER, "drop_ohm"),
            0.75,
            switches=True,
            converter=laws.StepDown,
            lets_back="by_its_diode",
        ),
        _StepUp("boost", "boost", "steps up", _CONVERTER, 0.75, True, True, converter=laws.StepUp),
        _Converter("buck_boost", "buck-boost", "steps up or down as need be", _CONVERTER, 0.75, True, True),
    )
}
REGULATORS.update(KINDS)
# A usual power Schottky, wherever this tool has to assume a diode (Is, N, Rs: common practice, no source).
SCHOTTKY = Regulator(kind="diode", name="Schottky diode")


def kind_of(regulator: Regulator) -> RegulatorKind:
    """The kind that this regulator is of."""
    kind = REGULATORS[regulator.kind]
    assert isinstance(kind, RegulatorKind)
    return kind


def law_of_regulator(regulator: Regulator) -> laws.RegulatorLaw:
    """The regulator at work."""
    return kind_of(regulator).law(regulator)


def law_of_regulators(regulators: Sequence[Regulator]) -> laws.RegulatorLaw:
    """Those that stand in a row at work, the one nearest to the cell first; none at all: straight through."""
    if not regulators:
        return laws.Straight()
    *before, last = [law_of_regulator(regulator) for regulator in regulators]
    law = last
    for first in reversed(before):
        law = laws.InARow(first, law)
    return law


def back_through(regulators: Sequence[Regulator]) -> LetsBack:
    """How current gets back to the cell through all of them: as the one that holds it up most lets it."""
    by_strength: tuple[LetsBack, ...] = ("not", "by_its_diode", "freely")
    return min((kind_of(one).lets_back for one in regulators), key=by_strength.index, default="freely")


# A regulator that is shorted gives so many times its rating, and one of unknown rating this (common practice).
SHORTED_TIMES, SHORTED_A = 1.5, 1.0


def most_given_a(regulator: Regulator) -> float:
    """What a driver is set to; of another its own limit."""
    return regulator.i_set_a or (SHORTED_TIMES * regulator.rated_a if regulator.rated_a else SHORTED_A)


def efficiency_at(regulator: Regulator, v_in: float, load_a: float) -> float:
    """Power out over power in with `v_in` at the regulator's own terminals; 0 where it cannot carry the load."""
    point = law_of_regulator(regulator).operating_point(v_in, 0.0, Load(steady_a=load_a))
    out_w, in_w = float(point.gadget_v) * load_a, v_in * float(point.cell_a)
    return out_w / in_w if np.isfinite(out_w) and in_w > 0 else 0.0
