"""Plans for tests: a sound conversion, and small changes to it."""

from typing import Any

from pocketspark.core.finding import Finding
from pocketspark.core.models import Project
from pocketspark.core.models.record import Record
from pocketspark.core.questions.assess import assess
from pocketspark.core.questions.assessment import Assessment

CHARGER = {"k_volts": 1200, "rated_a": 1.0}
SIZE = {"outline_mm": [26, 17, 4.2]}
PROTECTION = {"v_trip": 0.15, "r_on_ohm": 0.025, "cut_v": 2.5}
CELL = {
    "name": "Pouch 503450",
    "capacity_ah": 0.9,
    "size_mm": [5, 34, 50],
    "charge_max_a": 0.9,
    "discharge_max_a": 5.0,
    "r_ohm": 0.09,
}


def plan(*, gadget: dict[str, Any] | None = None, basis: dict[str, str] | None = None, **build: Any) -> Project:
    """Three alkalines' worth of gadget with a stated window, on a protected 1 A board set to 400 mA.

    `build`: fields of its plan, or of its record.
    """
    gadget = {
        "name": "Moth-trap lamp",
        "purpose": "ordinary",
        "supply": {"battery": "LR03", "series": 3},
        "window": {"v_run_min": 3.1, "v_abs_max": 4.8},
        "modes": [{"name": "lit", "current_a": 0.06, "hours_per_day": 3}],
        "bay": {"rooms": [{"size_mm": [75, 45, 20]}], "wall_mm": 0.2},
    } | (gadget or {})
    board = {"name": "1 A board", "charger": CHARGER, "protection": PROTECTION, "socket": {"kind": "type_c"}} | SIZE
    usual = {"cell": CELL, "boards": [board], "r_prog_ohm": 3000}
    if measured := {field: build.pop(field) for field in [*build] if field in Record.model_fields}:
        build["record"] = measured
    return Project.model_validate({"gadget": gadget, "builds": [usual | build], "basis": basis or {}})


def board(*, protection: bool = True, socket: dict[str, Any] | None = None, **charger: Any) -> dict[str, Any]:
    return {
        "name": "board",
        "charger": CHARGER | charger,
        "protection": PROTECTION if protection else None,
        "socket": socket,
    } | SIZE


def judged(**changes: Any) -> Assessment:
    return assess(plan(**changes))


def finding(seen: Assessment, code: str) -> Finding | None:
    """The gravest finding of this code, passes left out."""
    return next((f for f in seen.findings if f.code == code and f.level != "pass"), None)
