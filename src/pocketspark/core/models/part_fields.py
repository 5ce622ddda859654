"""The fields of an own part as a maker fills them in, kind by kind: labels, units and examples."""

from dataclasses import dataclass
from typing import Literal, get_args

from pocketspark.core.message import Label
from pocketspark.core.models.board import REGULATORS
from pocketspark.core.models.cell import CellForm
from pocketspark.core.models.cell_class import CELL_CLASSES
from pocketspark.core.models.inventory_item import InventoryKind


@dataclass(frozen=True)
class PartField:
    """One field. `choices` are the values it may take; `kind` how it is typed where that is no quantity or name."""

    path: str
    label: Label
    unit: str = ""
    hint: Label = ""
    kind: Literal["", "size", "words", "yes", "readings"] = ""
    choices: tuple[Label, ...] = ()


@dataclass(frozen=True)
class PartKind:
    """One kind of own part: its heading, what it is for, its fields."""

    label: Label
    teaches: Label
    fields: tuple[PartField, ...]


_BOARD = (
    PartField("name", "name"),
    PartField("outline_mm", "length x width x height", "mm", "28 x 17 x 4", "size"),
    PartField("price", "price"),
)
_CELL = (
    PartField("name", "name"),
    PartField("origin", "origin", choices=("new", "salvaged")),
    PartField("form", "form", choices=get_args(CellForm)),
    PartField("cell_class", "class", choices=tuple(CELL_CLASSES)),
    PartField("size_mm", "size", "mm", "5 x 34 x 50", "size"),
    PartField("capacity_ah", "label says", "mAh"),
    PartField("measured_capacity_ah", "measured", "mAh"),
    PartField("r_ohm", "resistance", "mΩ"),
    PartField("charge_max_a", "can be charged with", "mA"),
    PartField("discharge_max_a", "can supply", "mA"),
    PartField("own_protection", "has its own protection", kind="yes"),
    PartField("intake.found_in", "found in"),
    PartField("intake.cycles", "full charges so far"),
    PartField("intake.rest_v", "at rest", "V"),
    PartField("intake.thickness_mm", "thick", "mm"),
    PartField("intake.damage", "damage", hint="dent, smell", kind="words"),
    PartField("intake.loads.0.current_a", "first load", "mA"),
    PartField("intake.loads.0.volts", "shows", "V"),
    PartField("intake.loads.1.current_a", "second load", "mA"),
    PartField("intake.loads.1.volts", "shows", "V"),
    PartField("intake.drop_24h_v", "drop after 24 h", "mV"),
    PartField("price", "price"),
)
_CHARGER = (
    PartField("charger.k_volts", "K", "V", "1200"),
    PartField("charger.rated_a", "rated for", "mA"),
    PartField("charger.float_v", "end voltage", "V", "4.20"),
    PartField("charger.r_prog_ohm", "resistor as delivered", "kΩ"),
    PartField("charger.theta_ja_c_per_w", "theta", "C/W"),
    PartField("charger.v_in_max", "input at most", "V", "6"),
    PartField("charger.least_a", "K holds from", "mA", "20"),
    PartField("charger.timer_h", "timer ends it after", "h"),
    PartField("charger.temperature_input", "temperature input", choices=("none", "tied off", "thermistor", "open")),
    PartField("charger.r_table", "measured on it: ohm, amps", hint="3k 390mA; 10k 118mA", kind="readings"),
)
_PROTECTION = (
    PartField("protection.v_trip", "trips at a drop of", "V", "0.15"),
    PartField("protection.r_on_ohm", "each transistor", "mΩ", "25"),
    PartField("protection.cut_v", "over-discharge cut", "V", "2.5"),
    PartField("protection.release_v", "release voltage", "V", "3.0"),
    PartField("protection.over_charge_v", "over-charge cut", "V", "4.28"),
)
_RESISTOR = (
    PartField("name", "name", hint="chip 0805"),
    PartField("r_ohm", "value", "Ω", "3k"),
    PartField("tolerance", "tolerance", "%", "1"),
    PartField("mounting", "mounting", choices=("chip", "leaded")),
)


def _regulator() -> tuple[PartField, ...]:
    return (
        PartField("regulator.kind", "kind", choices=tuple(key for key in REGULATORS if key != "none")),
        PartField("regulator.v_set", "gives", "V"),
        PartField("regulator.i_set_a", "holds a current of", "mA"),
        PartField("regulator.series_ohm", "resistance", "Ω"),
        PartField("regulator.iq_a", "draws itself", "μA"),
        PartField("regulator.efficiency", "efficient at best", "%"),
        PartField("regulator.rated_a", "rated for", "mA"),
        PartField("regulator.v_in_max", "input at most", "V"),
        PartField("regulator.v_in_min", "input at least", "V", "2.5"),
        PartField("regulator.switching_hz", "switches at", "Hz", "1.2 M"),
        PartField("regulator.switch_a", "its switch can take", "A"),
        PartField("regulator.has_enable", "has an enable pin", kind="yes"),
    )


def part_kinds() -> dict[InventoryKind, PartKind]:
    """Every kind of own part, in the order of the page."""
    return {
        "cell": PartKind("Cells", "Used cells wait here for their readings; like ones find each other.", _CELL),
        "charger": PartKind(
            "Chargers", "Boards you have, with the currents you measured on them.", (*_BOARD, *_CHARGER)
        ),
        "protection": PartKind("Protections", "Protection boards you have.", (*_BOARD, *_PROTECTION)),
        "regulator": PartKind("Regulators", "Regulators, diodes and converters you have.", (*_BOARD, *_regulator())),
        "resistor": PartKind("Resistors", "Charge tries these first, alone and two together.", _RESISTOR),
    }
