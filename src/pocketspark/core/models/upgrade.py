"""Older documents, brought to today's format. Works on what was read from JSON, before any model sees it."""

import re
from collections.abc import Callable, Mapping
from typing import Any

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import say
from pocketspark.core.models.project import FORMAT

# Fields that were renamed from format 1 to format 2, wherever they stand.
_FIELDS_1: Mapping[str, str] = {
    "guard": "protection",
    "own_guard": "own_protection",
    "shaper": "regulator",
    "r_program_ohm": "r_prog_ohm",
    "trickle_v": "precharge_v",
    "trickle_share": "precharge_share",
    "end_share": "termination_share",
    "theta_c_per_w": "theta_ja_c_per_w",
    "cut_out_a": "auto_off_a",
    "inlet": "existing_charging",
    "fate": "treatment",
    "third_wire": "thermistor_lead",
    "drawer_id": "inventory_id",
    "forecasts": "predictions",
}
# Values that were renamed, by the field (of format 2) that holds them.
_VALUES_1: Mapping[str, Mapping[str, str]] = {
    "switch_place": {"before_shaper": "before_regulator"},
    "off_path": {"before_shaper": "before_regulator", "after_shaper": "after_regulator"},
    "step": {"shaper": "regulator", "run_down": "discharge"},
    "kind": {"trickle_jack": "jack"},
}
_PADS_1 = re.compile(r"^(guard|shaper)(?=\d*\.)")
_PAD_FIELDS = ("start", "end", "case_touches")
# What format 1 kept in a build beside its plan.
_RECORD_1 = ("r_measured_ohm", "first_charge", "steps", "predictions", "attempts")
_PART_KINDS_1: Mapping[str, str] = {"guard": "protection", "shaper": "regulator"}


class UnknownFormat(PocketSparkError, ValueError):
    """The document is of no format that this release reads."""


def upgraded(document: Mapping[str, Any]) -> dict[str, Any]:
    """The document in today's format; one that is, comes back as it was.

    Raises UnknownFormat for a later format, or for none that is known.
    """
    said = document.get("format")
    if said == FORMAT:
        return dict(document)
    upgrade = _UPGRADES.get(said) if isinstance(said, str) else None
    if upgrade is not None:
        return upgrade(document)
    if isinstance(said, str) and re.fullmatch(r"pocket-spark/\d{1,6}", said):
        raise UnknownFormat(
            say("this file is of a later format, {format}: open it with a newer Pocket Spark", format=said)
        )
    raise UnknownFormat(say('the file must say "format": "{format}"', format=FORMAT))


def upgraded_part(kind: str, body: Mapping[str, Any]) -> tuple[str, dict[str, Any]]:
    """An own part as format 1 stored it: its kind and its body in today's names."""
    return _PART_KINDS_1.get(kind, kind), _renamed(body)


def _from_1(document: Mapping[str, Any]) -> dict[str, Any]:
    renamed: dict[str, Any] = _renamed(document)
    if isinstance(renamed.get("builds"), list):
        renamed["builds"] = [_with_record(build) for build in renamed["builds"]]
    if isinstance(renamed.get("basis"), Mapping):
        renamed["basis"] = {_renamed_path(path): basis for path, basis in renamed["basis"].items()}
    return {**renamed, "format": FORMAT}


def _renamed(branch: Any) -> Any:
    if isinstance(branch, list):
        return [_renamed(row) for row in branch]
    if not isinstance(branch, Mapping):
        return branch
    return {(name := _FIELDS_1.get(key, key)): _renamed_value(name, value) for key, value in branch.items()}


def _renamed_value(field: str, value: Any) -> Any:
    if field == "basis":
        return value
    if isinstance(value, str):
        if field in _PAD_FIELDS:
            return _PADS_1.sub(lambda found: _PART_KINDS_1[found[1]], value)
        return _VALUES_1.get(field, {}).get(value, value)
    return _renamed(value)


def _with_record(build: Any) -> Any:
    if not isinstance(build, dict):
        return build
    record = {field: build[field] for field in _RECORD_1 if build.get(field) is not None}
    plan = {field: value for field, value in build.items() if field not in _RECORD_1}
    return {**plan, "record": record} if record else plan


def _renamed_path(path: str) -> str:
    steps = [_FIELDS_1.get(step, step) for step in path.split(".")]
    if len(steps) > 2 and steps[0] == "builds" and steps[2] in _RECORD_1:
        steps.insert(2, "record")
    return ".".join(steps)


_UPGRADES: Mapping[str, Callable[[Mapping[str, Any]], dict[str, Any]]] = {"pocket-spark/1": _from_1}
