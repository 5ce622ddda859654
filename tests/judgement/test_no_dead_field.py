"""No dead field: what a maker can fill in changes something that is said, in a build where it matters.

Each numeric, yes-or-no or choice field of gadget, cell, boards, regulator, source, input and wiring is set to the ends
of what it may be, and to every choice, in a handful of builds of all kinds. At least one finding or computed figure has
to change. A name is no finding: only levels, sentences and figures are compared.
"""

from functools import cache
from types import UnionType
from typing import Annotated, Any, Literal, Union, get_args, get_origin

import pytest
from pydantic import BaseModel, ValidationError

from builders import CELL, CHARGER, PROTECTION, SIZE, plan
from pocketspark.core.chain import Chain
from pocketspark.core.life.serving import serving
from pocketspark.core.models import Project
from pocketspark.core.questions.assess import assess
from pocketspark.core.units.quantity import Quantity

LIT = {"name": "lit", "current_a": 0.06, "hours_per_day": 3, "peak_a": 0.5, "peak_s": 2.0, "on_s": 1.0, "every_s": 60.0}
STEADY = {"name": "on", "current_a": 0.3, "hours_per_day": 2}
METAL = {"outer_mm": [90, 60, 25], "metal": True, "use_c": 20}
BOARD = {"name": "1 A board", "charger": CHARGER | {"theta_ja_c_per_w": 100}, "protection": PROTECTION} | SIZE
BOARD |= {"socket": {"kind": "type_c"}}
BOOST = {
    "kind": "boost",
    "v_set": 5.0,
    "iq_a": 1e-4,
    "rated_a": 1.0,
    "v_in_max": 5.5,
    "switch_a": 2.0,
    "input_ohm": 0.1,
}
BOOST |= {"has_enable": True, "auto_off_a": 0.01, "fixed_loss_w": 0.01}

TABLE = [{"r_ohm": 2000, "current_a": 0.58}, {"r_ohm": 5000, "current_a": 0.25}]

BASES = {
    "lamp": {
        "gadget": {
            "front_end": "led_resistor",
            "behind": {"led_v": 2.9, "design_v": 4.5},
            "modes": [LIT],
            "gauge": {"warn_v": 3.6, "stop_v": 3.2},
            "shell": METAL,
        },
        "boards": [BOARD],
        "use_while_charging": "on_cell",
        "cell_lead": "small_plug",
        "fuse_a": 1.0,
        "cell": CELL | {"measured_capacity_ah": 0.8, "intake": {"rest_v": 3.6}, "origin": "salvaged"},
    },
    "motor": {
        "gadget": {"front_end": "motor", "behind": {"winding_ohm": 5.0}, "modes": [LIT], "off_current_a": 1e-3},
        "boards": [BOARD],
        "regulator": BOOST,
        "switch_place": "before_regulator",
        "switch_a": 0.5,
        "use_while_charging": "two_diodes",
    },
    "radio": {
        "gadget": {
            "front_end": "converter",
            "sound": "speaker",
            "behind": {"input_max_v": 5.0, "input_min_v": 3.0, "regulated_v": 3.0, "logic_max_v": 3.6},
            "modes": [LIT],
            "off_current_a": 2e-3,
            "existing_charging": {"kind": "jack", "treatment": "moved", "adapter_v": 9.0, "current_a": 0.1},
        },
        "boards": [BOARD],
        "regulator": BOOST,
        "switch_place": "enable",
        "input": {"kind": "old_jack", "open_v": 5.2},
        "style": "rebuilt_shell",
        "contacts_a": 1.0,
    },
    "regulated": {
        "gadget": {
            "front_end": "regulator",
            "behind": {"input_max_v": 6.0, "regulated_v": 3.0},
            "supply": {"battery": "LR6", "series": 4},
            "window": {"v_run_min": 2.5, "v_abs_max": 6.5},
            "modes": [LIT],
            "off_current_a": 1e-4,
        },
        "boards": [BOARD],
        "regulator": {"kind": "ldo", "v_set": 3.0, "iq_a": 1e-4, "theta_ja_c_per_w": 200, "drop_v": 0.1},
        "input": {"kind": "wireless"},
        "use_while_charging": "load_sharing",
    },
    "dropped": {
        "gadget": {"front_end": "logic", "modes": [LIT], "behind": {"logic_max_v": 3.6}},
        "boards": [BOARD | {"charger": CHARGER | {"r_table": TABLE}}],
        "regulator": {"kind": "resistor", "series_ohm": 20},
    },
    "bare logic": {
        "gadget": {"front_end": "logic", "modes": [LIT], "window": None, "supply": {"battery": "LR6", "series": 2}},
        "boards": [BOARD | {"socket": {"kind": "type_c", "cc_resistors": False}}],
        "cell_count": 2,
        "r_prog_ohm": None,
    },
    "run flat": {
        "gadget": {
            "modes": [STEADY],
            "window": {"v_run_min": 2.0, "v_abs_max": 5.0},
            "existing_charging": {"kind": "dock", "treatment": "untouched", "adapter_v": 6.0},
        },
        "cell": CELL | {"cut_v": 2.0, "own_protection": PROTECTION | {"cut_v": 2.6}},
        "boards": [BOARD],
        "regulator": {"kind": "ldo", "v_set": 2.2},
        "use_while_charging": "change_over",
    },
    "garden": {
        "gadget": {"modes": [LIT], "shell": {"climate": "temperate"}},
        "boards": [BOARD | {"socket": {"kind": "type_c"}}],
    },
    "receiver": {
        "gadget": {"modes": [LIT], "sound": "radio", "receives": "medium_wave"},
        "boards": [BOARD],
        "regulator": BOOST,
        "source": {"kind": "own", "volts": 5.5, "limit_a": 1, "cable_mm": 3000},
    },
    "diode": {
        "gadget": {"modes": [LIT], "window": {"v_run_min": 1.5, "v_abs_max": 5.0}},
        "cell": CELL | {"cut_v": 2.0},
        "boards": [BOARD],
        "regulator": {"kind": "diode"},
    },
    "old dock": {
        "gadget": {
            "modes": [LIT],
            "window": {"v_run_min": 2.0},
            "existing_charging": {"kind": "dock", "treatment": "untouched", "adapter_v": 6.0},
        },
        "boards": [BOARD],
    },
    "pack": {
        "gadget": {"supply": {"kind": "pack", "pack_v": 4.8, "pack_capacity_ah": 0.6}, "modes": [LIT]},
        "boards": [BOARD],
        "use_while_charging": "change_over",
    },
    "swap": {
        "gadget": {
            "supply": {"kind": "lithium", "own_charger": {"current_a": 0.3, "float_v": 4.2, "timer_h": 6}},
            "modes": [LIT],
        },
        "cell": CELL | {"own_protection": True, "thermistor_lead": True},
        "boards": [],
        "who_charges": "gadget",
    },
    "outside": {
        "gadget": {"modes": [LIT]},
        "cell": CELL | {"own_protection": True},
        "boards": [],
        "who_charges": "external",
        "external_charger": {"current_a": 0.5, "float_v": 4.2},
    },
}  # fmt: skip

# Where the fields lie. Fit, placement and prints have checks of their own; so have steps, readings and intake.
ROOTS = ("gadget", "builds.0")
LEFT_TO_OTHERS = ("gadget.bay", "gadget.arrangement", "builds.0.record", "builds.0.pins", "builds.0.small_parts")
LEFT_TO_OTHERS += ("builds.0.wiring.wires", "builds.0.wiring.extra", "builds.0.boards.0.pads", "builds.0.unlike_cells")
# Each with its reason.
EXCUSES = {
    "price": "counts at payback and on the shopping list, which have tests of their own",
    "inventory_id": "says of which own part it is a copy",
    "outline_mm": "fit", "size_mm": "fit", "pcb_mm": "fit", "above_mm": "fit", "nose_mm": "fit", "outer_mm": "heat",
    "outside": "fit", "shell_off": "fit", "cell_any_way": "fit", "socket_stop_mm": "fit", "cradle_mm": "fit",
    "practice": "printed on the sheet, and judged nowhere",
    "intake": "core/cells/grading.py, held by test_cells.py",
    "second_supply": "a note that is always the same",
}  # fmt: skip


@cache
def base(name):
    return plan(**BASES[name]).model_dump(mode="json")


@cache
def said(name):
    return facts(Project.model_validate(base(name)))


def facts(project):
    """Everything said, and every figure computed, without what merely repeats a field."""
    seen = assess(project)
    findings = tuple((f.code, f.level, str(f.headline), str(f.working)) for f in seen.findings)
    parts = (seen.run, seen.charge, seen.charging, seen.gadget_v)
    years = serving(Chain(project, 0))
    return findings, years, tuple(part.model_dump_json() if part else "" for part in parts)


def leaves(model, path):
    """Every field of a model and of the models in it: its path and its annotation."""
    for name, field in type(model).model_fields.items():
        here, value = f"{path}.{name}", getattr(model, name)
        if here in LEFT_TO_OTHERS or name in EXCUSES or name == "id":
            continue
        if isinstance(value, BaseModel):
            yield from leaves(value, here)
        elif isinstance(value, tuple) and value and isinstance(value[0], BaseModel):
            yield from leaves(value[0], f"{here}.0")
        else:
            yield here, [field.annotation, *field.metadata]


def candidates(annotations):
    """The ends of what a field may be and two values between, every choice, yes and no."""
    for annotation in annotations:
        if isinstance(annotation, Quantity):
            low, span = annotation.low, annotation.high - annotation.low
            yield from (low + share * span for share in (0, 1, 0.02, 0.3, 1e-4, 1e-5))
        elif annotation is bool:
            yield from (True, False)
        elif annotation is int:
            yield from (1, 2, 4)
        elif get_origin(annotation) is Literal:
            yield from get_args(annotation)
        elif get_origin(annotation) in (Annotated, Union, UnionType):
            yield from candidates(get_args(annotation))
        elif hasattr(annotation, "known"):
            yield from annotation.known()


def paths():
    found = {}
    for name in BASES:
        project = Project.model_validate(base(name))
        for root, model in zip(ROOTS, (project.gadget, project.builds[0]), strict=True):
            for path, annotations in leaves(model, root):
                if values := list(candidates(annotations)):
                    found.setdefault(path, (values, []))[1].append(name)
    return found


PATHS = paths()


def with_value(document: dict[str, Any], path: str, value: Any) -> dict[str, Any]:
    head, _, rest = path.partition(".")
    key: Any = int(head) if head.isdigit() else head
    changed = list(document) if isinstance(document, list) else dict(document)
    changed[key] = with_value(changed[key], rest, value) if rest else value
    return changed


def changes_something(path):
    values, names = PATHS[path]
    for name in names:
        for value in values:
            try:
                project = Project.model_validate(with_value(base(name), path, value))
            except ValidationError:
                continue
            if facts(project) != said(name):
                return True
    return False


def test_there_are_so_many_fields():
    assert len(PATHS) > 110


@pytest.mark.parametrize("path", PATHS)
def test_it_changes_something(path):
    assert changes_something(path)
