"""Plans as a maker would bring them, with what an expert must say of each and must not say.

Every fault is from the handbook's list of what goes wrong (common practice, no source, unless a figure is named beside
it). `must`: codes with the least level. Sound plans must not raise anything above a note, or not what is named.
"""

from dataclasses import dataclass, field

from builders import CELL, CHARGER, PROTECTION, SIZE

SOUND = "*"


@dataclass(frozen=True)
class Case:
    """One plan in a maker's words."""

    says: str
    changes: dict
    must: dict = field(default_factory=dict)  # code: least level
    must_not: tuple = ()  # codes that may not be a caution or a stop; SOUND: none at all may


def lit(current_a=0.06, **more):
    return {"name": "lit", "current_a": current_a, "hours_per_day": 3, **more}


def gadget(**changes):
    return {"gadget": changes}


def cell(**changes):
    return {"cell": CELL | changes}


def boards(*parts):
    return {"boards": list(parts)}


def charger(protection=PROTECTION, socket=True, **figures):
    board = {"name": "1 A board", "charger": CHARGER | figures, "protection": protection} | SIZE
    return board | {"socket": {"kind": "type_c"} if socket else None}


def family(says, code, level, faulty, sound):
    """The same question on both sides: plans that have the fault, and plans that nearly have it."""
    yield from (Case(f"{says}: {what}", changes, must={code: level}) for what, changes in faulty)
    yield from (Case(f"{says}, but not: {what}", changes, must_not=(code,)) for what, changes in sound)


def existing(kind, treatment):
    return gadget(existing_charging={"kind": kind, "treatment": treatment})


LEDS = {"front_end": "led_resistor", "behind": {"led_v": 3.0, "design_v": 4.5}}
BRIGHT = LEDS | {"modes": [lit(0.06, law="led", at_v=4.5)]}
STEP_UP = {"name": "5 V step-up", "regulator": {"kind": "boost", "v_set": 5.0}} | SIZE


def step_up(v_set, **more):
    return {"regulator": {"kind": "boost", "v_set": v_set, **more}}


def states():
    """What goes wrong in a state that did not come to mind: full, plugged in, asleep, in a row, cold."""
    torch = {"modes": [lit(2.0, law="led", at_v=4.5)], "window": {"v_run_min": 3.1, "v_abs_max": 4.8}} | LEDS
    yield from family(
        "the peak at a full cell",
        "cell.over_discharge_rating",
        "stop",
        [("a 2 A torch on a 0.9 A cell", gadget(**torch) | cell(discharge_max_a=0.9))],
        [("a 2 A torch on a 5 A cell", gadget(**torch) | cell(discharge_max_a=5.0))],
    )
    jack = {"kind": "dock", "treatment": "diode", "current_a": 0.3}
    yield from family(
        "the old adapter in its jack",
        "power.stress_led",
        "stop",
        [("9 V behind a diode, at LEDs for 4.5 V", gadget(existing_charging=jack | {"adapter_v": 9.0}, **BRIGHT))],
        [("5 V behind a diode, at LEDs for 4.5 V", gadget(existing_charging=jack | {"adapter_v": 5.0}, **BRIGHT))],
    )
    yield from family(
        "a capacitor at the gadget",
        "power.capacitor_inrush",
        "caution",
        # 4.2 V / 0.19 ohm = 22 A, over three times 2.4 A for 0.19 ohm 10 mF ln(22 / 7.2) = 2.1 ms
        [("10 mF straight on the cell", gadget(capacitance_f=0.01))],
        [
            ("100 uF straight on the cell", gadget(capacitance_f=1e-4)),
            ("10 mF behind a step-up", gadget(capacitance_f=0.01) | step_up(5.0)),
        ],
    )
    yield from family(
        "wires that are there",
        "wire.existing_wires",
        "stop",
        [("1 A in 36 AWG", gadget(wires_awg=36, modes=[lit(1.0)]))],
        [("60 mA in 36 AWG", gadget(wires_awg=36)), ("1 A in 26 AWG", gadget(wires_awg=26, modes=[lit(1.0)]))],
    )
    yield from family(
        "two regulators in a row",
        "power.over_window",
        "stop",
        [
            (
                "a 5 V step-up, then one of 12 V, at a 6 V gadget",
                gadget(window={"v_run_min": 4.5, "v_abs_max": 6.0}) | boards(charger(), STEP_UP) | step_up(12.0),
            )
        ],
        [
            (
                "a 5 V step-up, then a regulator of 3.3 V, at a 3.6 V gadget",
                gadget(window={"v_run_min": 3.0, "v_abs_max": 3.6})
                | boards(charger(), STEP_UP)
                | {"regulator": {"kind": "ldo", "v_set": 3.3}},
            )
        ],
    )
    yield from family(
        "a step-up set under the window",
        "power.under_window",
        "stop",
        [
            (
                "and the cell gives no more",
                gadget(window={"v_run_min": 4.5}) | {"regulator": {"kind": "boost", "v_set": 4}},
            )
        ],
        [("it passes the cell", gadget(window={"v_run_min": 3.35}) | {"regulator": {"kind": "boost", "v_set": 3.3}})],
    )
    weak = gadget(front_end="regulator", behind={"input_max_v": 4.5})
    yield from family(
        "the volts of the 5 V at what is inside the gadget",
        "power.stress_regulator",
        "stop",
        [("rated for 4.5 V", weak | {"use_while_charging": "change_over"})],
        [("rated for 4.5 V, switched off meanwhile", weak)],
    )
    yield from family(
        "pre-charge against the gadget",
        "charge.stuck_in_precharge",
        "stop",
        [("60 mA against 36", gadget(window={"v_run_min": 2.0}) | {"use_while_charging": "on_cell"})],
        [
            ("the gadget stops at 3.1 V", {"use_while_charging": "on_cell"}),
            ("it is switched off", gadget(window={"v_run_min": 2.0})),
        ],
    )
    motor = {"front_end": "motor", "behind": {"winding_ohm": 2.0}}
    yield from family(
        "a stalled motor behind a step-up",
        "power.protection_trips_early",
        "stop",
        [("5 V over 2 ohm", gadget(**motor) | {"regulator": {"kind": "boost", "v_set": 5.0}})],
        [
            (
                "5 V over 20 ohm",
                gadget(**motor | {"behind": {"winding_ohm": 20}}) | {"regulator": {"kind": "boost", "v_set": 5.0}},
            )
        ],
    )
    yield from family(
        "a filament that is cold",
        "power.protection_trips_early",
        "caution",
        [("0.5 A hot", gadget(front_end="lamp", modes=[lit(0.5, at_v=4.5)]))],
        [("0.1 A hot", gadget(front_end="lamp", modes=[lit(0.1, at_v=4.5)]))],
    )
    pulses = lit(0.9, on_s=1.0, every_s=60.0)
    yield from family(
        "what empties a cell that is plugged in",
        "charge.never_ends",
        "stop",
        [("0.9 A all the time", gadget(modes=[lit(0.9)]) | {"use_while_charging": "on_cell"})],
        [],
    )
    yield Case(
        "a motor of one second a minute on a cell that charges",
        gadget(modes=[pulses]) | {"use_while_charging": "on_cell"},
        must={"charge.never_ends": "caution"},
    )
    yield from family(
        "the longest quiet time of a power-bank board",
        "power.auto_off",
        "caution",
        [("a minute", gadget(modes=[pulses]) | step_up(4.5, auto_off_a=0.05))],
        [
            (
                "ten seconds",
                gadget(modes=[lit(0.9, on_s=1.0, every_s=11.0)]) | step_up(4.5, auto_off_a=0.05),
            )
        ],
    )
    yield from family(
        "cold where it is used",
        "cell.use_temperature",
        "caution",
        [("-10 C", gadget(shell={"use_c": -10})), ("55 C", gadget(shell={"use_c": 55}))],
        [("-5 C, charged indoors", gadget(shell={"use_c": -5}))],
    )
    yield Case(
        "used at -5 C and charged indoors", gadget(shell={"use_c": -5}), must_not=("charge.cold", "charge.cell_warm")
    )
    yield from family(
        "two chargers",
        "charge.no_charger",
        "stop",
        [
            ("two boards", boards(charger(), charger())),
            (
                "the gadget's own beside a board",
                gadget(supply={"kind": "lithium", "own_charger": {"current_a": 0.3}}),
            ),
        ],
        [],
    )
    yield Case(
        "68 ohm before an LED",
        gadget(**LEDS | {"modes": [lit(0.02, law="led", at_v=4.5)], "window": {"v_run_min": 3.05, "v_abs_max": 4.8}})
        | {"regulator": {"kind": "resistor", "series_ohm": 68}},
        must_not=(SOUND,),
    )
    yield Case("a 4.35 V cell on a 4.20 V charger", cell(cell_class="li_4v35"), must_not=("charge.float_low",))


def cases():
    yield from states()
    yield Case("three alkalines' worth of lamp on a protected board, 400 mA", {}, must_not=(SOUND,))
    for ohm in (2400, 2700, 3300, 3900, 4700, 5600, 6800):
        yield from (
            [Case(f"a 900 mAh cell on {ohm} ohm", {"r_prog_ohm": ohm}, must_not=("charge.over_cell",))]
            if ohm < 3000
            else [Case(f"a 900 mAh cell on {ohm} ohm", {"r_prog_ohm": ohm}, must_not=(SOUND,))]
        )
    yield from family(
        "a 1 A board left as delivered on a small cell",
        "charge.over_cell",
        "stop",
        [(f"{mah} mAh", {"r_prog_ohm": 1200} | cell(capacity_ah=mah / 1000, charge_max_a=mah / 1000))
         for mah in (40, 110, 200, 320, 450, 600, 800)],
        [(f"{mah} mAh", {"r_prog_ohm": 1200, "policy": "label"} | cell(capacity_ah=mah / 1000, charge_max_a=mah / 1000))
         for mah in (1200, 1500, 2000, 3000)],
    )  # fmt: skip
    yield from family(
        "a charger that fills past the cell's class",
        "charge.float_high",
        "stop",
        [
            ("LFP on 4.20 V", cell(cell_class="lfp")),
            ("LFP on 4.35 V", cell(cell_class="lfp") | boards(charger(float_v=4.35))),
            ("4.20 V cell on 4.35 V", boards(charger(float_v=4.35))),
        ],
        [
            ("4.20 on 4.20", {}),
            (
                "4.35 on 4.35",
                cell(cell_class="li_4v35") | boards(charger(PROTECTION | {"over_charge_v": 4.43}, float_v=4.35)),
            ),
            ("4.35 on 4.20", cell(cell_class="li_4v35")),
        ],
    )
    yield from family(
        "nothing protects the cell",
        "power.no_protection",
        "stop",
        [
            ("bare board, bare cell", boards(charger(None))),
            ("a dummy of a bare cell", boards(charger(None)) | {"style": "outside_pack"}),
        ],
        [
            ("on the board", {}),
            ("on the cell", boards(charger(None)) | cell(own_protection=True)),
            ("both", cell(own_protection=True)),
        ],
    )
    yield from family(
        "an old charge path left in",
        "survey.existing_charging_live",
        "stop",
        [(f"{kind} untouched", existing(kind, "untouched")) for kind in ("jack", "dock", "contacts")],
        [
            (f"{kind} {how}", existing(kind, how))
            for kind in ("jack", "dock", "contacts")
            for how in ("cut", "diode", "moved")
        ],
    )
    yield from family(
        "two chargers on one cell",
        "survey.existing_charging_live",
        "stop",
        [("its own lithium charger kept beside a board", existing("lithium_charger", "kept"))],
        [("its own one cut", existing("lithium_charger", "cut"))],
    )
    yield from family(
        "a source that kills a 5 V charger",
        "charge.source_high",
        "stop",
        [(f"{v} V", {"source": {"kind": "charging_port", "volts": v}}) for v in (6.1, 7.5, 9, 12)],
        [(f"{v} V", {"source": {"kind": "charging_port", "volts": v}}) for v in (4.75, 5, 5.25, 5.5)],
    )
    jack = {"kind": "old_jack", "centre": "positive"}
    yield from family(
        "an adapter at the old jack that kills the charger",
        "charge.old_jack",
        "stop",
        [("unregulated", {"input": jack | {"regulated": False}}), ("9 V unloaded", {"input": jack | {"open_v": 9}})],
        [("regulated, measured", {"input": jack | {"open_v": 5.1}})],
    )
    yield Case("nobody measured the jack", {"input": {"kind": "old_jack"}}, must={"charge.old_jack": "caution"})
    yield from family(
        "charged in the cold",
        "charge.cold",
        "caution",
        [(f"{c} C", gadget(shell={"room_c": c})) for c in (9, 5, 1)] + [("judged at 0 C", {"cold": True})],
        [(f"{c} C", gadget(shell={"room_c": c})) for c in (10, 15, 20, 30)],
    )
    for c in (-1, -5, -20):
        yield Case(f"charged at {c} C", gadget(shell={"room_c": c}), must={"charge.cold": "stop"})
    logic = {"front_end": "logic", "window": {"v_run_min": 2.2, "v_abs_max": 3.6}}
    yield from family(
        "bare 3.3 V logic on a full cell",
        "power.over_window",
        "stop",
        [("straight", gadget(**logic)),
         ("through a silicon diode at next to no current",
          gadget(**logic, off_current_a=2e-6) | {"regulator": {"kind": "diode", "n": 1.8, "is_a": 1e-8}})],
        [("through 3.3 V", gadget(**logic) | {"regulator": {"kind": "ldo", "v_set": 3.3}}),
         ("through 3.0 V", gadget(**logic) | {"regulator": {"kind": "buck", "v_set": 3.0}})],
    )  # fmt: skip
    yield from family(
        "a 9 V gadget straight on one cell",
        "power.under_window",
        "stop",
        [("straight", gadget(window={"v_run_min": 6.5, "v_abs_max": 9.6}))],
        [("through a step-up", gadget(window={"v_run_min": 6.5, "v_abs_max": 9.6}, modes=[lit(0.02)])
          | {"regulator": {"kind": "boost", "v_set": 9}})],
    )  # fmt: skip
    yield from family(
        "a peak that resets the gadget with charge left",
        "power.resets_on_peak",
        "caution",
        [
            (f"{a} A at 3.5 V", gadget(modes=[lit(peak_a=a)], window={"v_run_min": 3.5, "v_abs_max": 4.8}))
            for a in (1.4, 1.5)
        ],
        [
            (f"{a} A at 3.0 V", gadget(modes=[lit(peak_a=a)], window={"v_run_min": 3.0, "v_abs_max": 4.8}))
            for a in (0.2, 0.5)
        ],
    )
    yield from family(
        "a protection that opens at the start-up peak",
        "power.protection_trips_early",
        "stop",
        [(f"{a} A", gadget(modes=[lit(peak_a=a)])) for a in (2.4, 3, 5)],
        [(f"{a} A", gadget(modes=[lit(peak_a=a)])) for a in (0.3, 1, 1.5)],
    )
    yield from family(
        "a load on the cell that hides the end of its charge",
        "charge.never_ends",
        "caution",
        [(f"{a * 1000:.0f} mA", {"use_while_charging": "on_cell"} | gadget(modes=[lit(a)])) for a in (0.05, 0.1, 0.2)],
        [("off meanwhile", {"use_while_charging": "off"} | gadget(modes=[lit(0.2)]))]
        + [(f"{a * 1000:.0f} mA", {"use_while_charging": "on_cell"} | gadget(modes=[lit(a)])) for a in (0.005, 0.015)],
    )
    yield from family(
        "a plug on the cell's lead over its rating",
        "wire.plug_rating",
        "caution",
        [(f"{a} A in the small one", {"cell_lead": "small_plug"} | gadget(modes=[lit(peak_a=a)])) for a in (1.2, 1.8)],
        [("0.5 A in the small one", {"cell_lead": "small_plug"} | gadget(modes=[lit(peak_a=0.5)])),
         ("1.5 A in the larger one", {"cell_lead": "common_plug"} | gadget(modes=[lit(peak_a=1.5)])),
         ("1.8 A soldered", gadget(modes=[lit(peak_a=1.8)]))],
    )  # fmt: skip
    yield from family(
        "a linear regulator that cannot carry its heat",
        "power.regulator_hot",
        "caution",
        [
            (f"{a} A through 3.3 V", {"regulator": {"kind": "ldo", "v_set": 3.3}} | gadget(modes=[lit(a)]))
            for a in (0.6, 0.8)
        ]
        + [("0.5 A through 2.5 V", {"regulator": {"kind": "ldo", "v_set": 2.5}} | gadget(modes=[lit(0.5)]))],
        [
            (f"{a} A through 3.3 V", {"regulator": {"kind": "ldo", "v_set": 3.3}} | gadget(modes=[lit(a)]))
            for a in (0.02, 0.1)
        ]
        + [("0.5 A through a step-down", {"regulator": {"kind": "buck", "v_set": 2.5}} | gadget(modes=[lit(0.5)]))],
    )
    yield from family(
        "more than a cell without a data sheet should give",
        "cell.discharge_unstated",
        "caution",
        [(f"{a} A from 0.9 Ah", cell(discharge_max_a=None) | gadget(modes=[lit(peak_a=a)])) for a in (1.9, 2.2)],
        [(f"{a} A from 0.9 Ah", cell(discharge_max_a=None) | gadget(modes=[lit(peak_a=a)])) for a in (0.3, 1.0, 1.7)],
    )
    yield from family(
        "more than the cell's own maximum",
        "cell.over_discharge_rating",
        "stop",
        [(f"{a} A", cell(discharge_max_a=0.9) | gadget(modes=[lit(peak_a=a)])) for a in (1.0, 1.5, 2.0)],
        [(f"{a} A", cell(discharge_max_a=2.0) | gadget(modes=[lit(peak_a=a)])) for a in (1.0, 1.5)],
    )
    yield from family(
        "a claim that the volume cannot hold",
        "cell.claim_not_credible",
        "stop",
        [(f"503450 as {mah} mAh", cell(capacity_ah=mah / 1000)) for mah in (1800, 2500, 5000)],
        [(f"503450 as {mah} mAh", cell(capacity_ah=mah / 1000)) for mah in (500, 800, 1000)],
    )
    for what, intake in (
        ("dented", {"damage": ["dent"]}),
        ("smelling", {"damage": ["smell"]}),
        ("at 1.2 V", {"rest_v": 1.2}),
        ("swollen by a quarter", {"thickness_mm": 6.4}),
    ):
        salvaged = cell(origin="salvaged", intake=intake)
        yield Case(f"a used cell, {what}", salvaged, must={"cell.intake": "stop"})
    yield Case(
        "a used cell that tested well",
        cell(origin="salvaged", measured_capacity_ah=0.85, intake={"rest_v": 3.7, "drop_24h_v": 0.004}),
        must_not=("cell.intake", "cell.salvaged_unmeasured"),
    )
    yield Case("a used cell nobody tested", cell(origin="salvaged"), must={"cell.salvaged_unmeasured": "caution"})
    yield Case("two cells in series", {"cells_in_series": 2}, must={"cell.series": "stop"})
    for purpose in ("medical", "life_safety", "small_children", "intrinsically_safe", "aviation"):
        yield Case(f"a thing for {purpose}", gadget(purpose=purpose), must={"survey.not_to_be_converted": "stop"})
    yield from family(
        "a power-bank board that switches itself off",
        "power.auto_off",
        "caution",
        [(f"{a * 1000:.0f} mA", {"regulator": {"kind": "boost", "v_set": 5, "auto_off_a": 0.08}}
          | gadget(modes=[lit(a)], window={"v_run_min": 4.5, "v_abs_max": 5.5})) for a in (0.005, 0.03)],
        [("150 mA", {"regulator": {"kind": "boost", "v_set": 5, "auto_off_a": 0.08}}
          | gadget(modes=[lit(0.15)], window={"v_run_min": 4.5, "v_abs_max": 5.5}))],
    )  # fmt: skip
    old = {"kind": "ldo", "v_set": 3.3, "iq_a": 0.005, "drop_v": 1.1}
    yield from family(
        "an old regulator before the switch that empties the cell in weeks",
        "power.off_drain",
        "caution",
        [("5 mA for ever", {"regulator": old})],
        [("switched before it", {"regulator": old, "switch_place": "before_regulator"}),
         ("two microamps", {"regulator": {"kind": "ldo", "v_set": 3.3, "iq_a": 2e-6}})],
    )  # fmt: skip
    yield from family(
        "a wireless pad without its ferrite",
        "charge.wireless",
        "stop",
        [("bare", {"input": {"kind": "wireless", "pad_ferrite": False}})],
        [("with ferrite", {"input": {"kind": "wireless"}})],
    )
    yield from family(
        "a board with pads only, fed by its own socket",
        "charge.no_socket",
        "stop",
        [("pads", boards(charger(socket=False)))],
        [("a socket of its own", boards(charger(socket=False)) | {"input": {"kind": "wired_socket"}}),
         ("by the old jack", boards(charger(socket=False)) | {"input": jack})],
    )  # fmt: skip
    yield from family(
        "Type-C without its resistors",
        "charge.type_c_dead",
        "caution",
        [("none", boards(charger() | {"socket": {"kind": "type_c", "cc_resistors": False}}))],
        [("with them", {}), ("Micro-B", boards(charger() | {"socket": {"kind": "micro_b", "cc_resistors": False}}))],
    )
    yield from family(
        "a protection whose over-charge cut does not suit",
        "power.over_charge_cut",
        "caution",
        [("opens before full", boards(charger(PROTECTION | {"over_charge_v": 4.15}))),
         ("far over an LFP's full", cell(cell_class="lfp") | boards(charger(float_v=3.65, precharge_v=2.0)))],
        [("4.28 V", {}), ("4.25 V", boards(charger(PROTECTION | {"over_charge_v": 4.25})))],
    )  # fmt: skip
    tight = {"rooms": [{"size_mm": [58, 36, 12]}], "walls": [{"side": "left"}], "wall_mm": 2}
    roomy = {"rooms": [{"size_mm": [80, 45, 20]}], "walls": [{"side": "left"}], "wall_mm": 0.2}
    yield from family(
        "parts that do not go in",
        "fit.does_not_fit",
        "stop",
        [("a thick cell under the lid", gadget(bay=tight) | cell(size_mm=[12, 34, 50])),
         ("a long one", gadget(bay=tight) | cell(size_mm=[5, 34, 70]))],
        [("with room", gadget(bay=roomy))],
    )  # fmt: skip
    dead_swap = {"style": "cell_swap", "boards": []}
    yield Case("a swap in a gadget without a lithium charger", dead_swap, must={"cell.swap_without_lithium": "caution"})
    yield from other_chargers_and_cells()
    for amount in (0.005, 0.01, 0.02, 0.04, 0.08):
        yield Case(
            f"a gentle gadget of {amount * 1000:.0f} mA",
            gadget(modes=[lit(amount)], bay=roomy),
            must_not=(SOUND,),
        )
    for name, size, mah in (
        ("402030", [4, 20, 30], 200),
        ("603450", [6, 34, 50], 1100),
        ("553450", [5.5, 34, 50], 1000),
    ):
        sound = cell(
            size_mm=size, capacity_ah=mah / 1000, charge_max_a=mah / 1000, discharge_max_a=mah / 500, r_ohm=None
        )
        gentle = sound | {"r_prog_ohm": 6800} | gadget(bay=roomy, modes=[lit(0.02)])
        quiet = ("cell.claim_not_credible", "power.protection_trips_late", "cell.resistance_high")
        yield Case(f"a {name} of {mah} mAh, gentle", gentle, must_not=quiet)


def other_chargers_and_cells():
    outside = {"who_charges": "external", "boards": []} | cell(own_protection=True)
    yield from family(
        "a charger outside that does not suit the cell",
        "cell.swap_class",
        "stop",
        [("4.35 V into 4.20 V", outside | {"external_charger": {"current_a": 0.3, "float_v": 4.35}}),
         ("4.20 V into LFP", outside | cell(cell_class="lfp", own_protection=True)
          | {"external_charger": {"current_a": 0.3, "float_v": 4.2}})],
        [("4.20 V into 4.20 V", outside | {"external_charger": {"current_a": 0.3, "float_v": 4.2}})],
    )  # fmt: skip
    yield from family(
        "more current from a charger outside than the cell takes",
        "cell.swap_charge",
        "stop",
        [("2 A", outside | {"external_charger": {"current_a": 2.0}}),
         ("1.5 A", outside | {"external_charger": {"current_a": 1.5}})],
        [("300 mA", outside | {"external_charger": {"current_a": 0.3}})],
    )  # fmt: skip
    yield from family(
        "a cell that is carried about with no protection of its own",
        "cell.dummy_unprotected",
        "stop",
        [("charged outside", outside | cell()), ("an insert", {"style": "dummy_cell"} | cell())],
        [("its own on its end", outside)],
    )  # fmt: skip
    worn = {"name": "worn", "capacity_ah": 0.5, "r_ohm": 0.3, "size_mm": [4, 30, 40], "charge_max_a": 0.4}
    yield from family(
        "unlike cells that are joined far apart",
        "cell.unlike_joining",
        "caution",
        [("full on empty", cell(intake={"rest_v": 4.1}) | {"unlike_cells": [worn | {"intake": {"rest_v": 3.5}}]}),
         ("half a volt", cell(intake={"rest_v": 4.0}) | {"unlike_cells": [worn | {"intake": {"rest_v": 3.5}}]})],
        [("brought together", cell(intake={"rest_v": 3.8}) | {"unlike_cells": [worn | {"intake": {"rest_v": 3.79}}]})],
    )  # fmt: skip
    yield Case(
        "an LFP beside a 4.20 V cell",
        {"unlike_cells": [worn | {"cell_class": "lfp"}]},
        must={"cell.unlike_class": "stop"},
    )
