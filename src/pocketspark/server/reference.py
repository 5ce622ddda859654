"""The tables, words and parts of the trade: what never changes while the server runs."""

from collections.abc import Mapping
from typing import Any, TypeVar

from fastapi import APIRouter

from pocketspark.core.finding import STATIONS
from pocketspark.core.models import BATTERIES, CELL_CLASSES, CHEMISTRIES, FRONT_ENDS, SOURCES, Battery
from pocketspark.core.models.build import CELL_LEADS, INPUTS, POLICIES, STYLES, SWITCH_PLACES, USES_WHILE_CHARGING
from pocketspark.core.models.gadget import EXISTING_CHARGING, LOAD_LAWS, OFF_PATHS, PURPOSES, TREATMENTS
from pocketspark.core.models.model import Model
from pocketspark.core.models.small_part import SMALL_PARTS, SmallPartKind
from pocketspark.core.models.supply import SUPPLY_KINDS
from pocketspark.core.rules import RULES, Rule
from pocketspark.core.units.quantity import amps
from pocketspark.formats.project_json import json_schema
from pocketspark.parts import Part, library
from pocketspark.server.problems import PROBLEM_RESPONSES

router = APIRouter(prefix="/api", tags=["reference"], responses=PROBLEM_RESPONSES)


class Choice(Model):
    """One value a field may take, in words."""

    value: str
    label: str
    detail: str = ""


class BatterySize(Model):
    """One row of the battery table, as the picture and the picker need it."""

    iec: str
    common: str
    form: str
    nominal_v: float
    size_mm: tuple[float, ...]
    chemistries: tuple[str, ...]


class RuleText(Model):
    """One rule of the handbook."""

    code: str
    station: str
    source: str
    says: str
    formula: str
    limits: str


class SmallPartUse(Choice):
    """A kind of small part, with its usual size."""

    value: SmallPartKind
    usual_mm: tuple[float, ...]


class ReferenceTables(Model):
    """The tables and labels of the reference, so that they stand once, here."""

    batteries: tuple[BatterySize, ...]
    chemistries: tuple[Choice, ...]
    front_ends: tuple[Choice, ...]
    laws: tuple[Choice, ...]
    cell_classes: tuple[Choice, ...]
    sources: tuple[Choice, ...]
    policies: tuple[Choice, ...]
    uses_while_charging: tuple[Choice, ...]
    supply_kinds: tuple[Choice, ...]
    purposes: tuple[Choice, ...]
    existing_charging_kinds: tuple[Choice, ...]
    treatments: tuple[Choice, ...]
    off_paths: tuple[Choice, ...]
    styles: tuple[Choice, ...]
    inputs: tuple[Choice, ...]
    cell_leads: tuple[Choice, ...]
    switch_places: tuple[Choice, ...]
    small_parts: tuple[SmallPartUse, ...]
    stations: tuple[str, ...]
    rules: tuple[RuleText, ...]


@router.get("/parts")
def parts() -> tuple[Part, ...]:
    return library().parts


@router.get("/schema")
def schema() -> dict[str, Any]:
    return json_schema()


@router.get("/reference")
def reference() -> ReferenceTables:
    return ReferenceTables(
        batteries=tuple(_battery(battery) for battery in BATTERIES.values()),
        chemistries=tuple(Choice(value=key, label=facts.label) for key, facts in CHEMISTRIES.items()),
        front_ends=tuple(
            Choice(value=key, label=facts.label, detail=f"too much: {facts.too_much}; too little: {facts.too_little}")
            for key, facts in FRONT_ENDS.items()
        ),
        laws=_choices(LOAD_LAWS),
        cell_classes=tuple(Choice(value=key, label=facts.label) for key, facts in CELL_CLASSES.items()),
        sources=tuple(
            Choice(value=key, label=facts.label, detail=amps(facts.limit_a)) for key, facts in SOURCES.items()
        ),
        policies=_choices(POLICIES),
        uses_while_charging=_choices(USES_WHILE_CHARGING),
        supply_kinds=_choices(SUPPLY_KINDS),
        purposes=_choices(PURPOSES),
        existing_charging_kinds=_choices(EXISTING_CHARGING),
        treatments=_choices(TREATMENTS),
        off_paths=_choices(OFF_PATHS),
        styles=_choices(STYLES),
        inputs=_choices(INPUTS),
        cell_leads=_choices(CELL_LEADS),
        switch_places=_choices(SWITCH_PLACES),
        small_parts=tuple(
            SmallPartUse(value=key, label=facts.label, detail=facts.says, usual_mm=facts.usual_mm)
            for key, facts in SMALL_PARTS.items()
        ),
        stations=STATIONS,
        rules=tuple(_rule_text(rule) for rule in RULES.values()),
    )


def _rule_text(rule: Rule) -> RuleText:
    return RuleText(
        code=rule.code,
        station=rule.station,
        source=rule.source,
        says=rule.says,
        formula=rule.formula,
        limits=rule.limits,
    )


def _battery(battery: Battery) -> BatterySize:
    return BatterySize(
        iec=battery.iec,
        common=battery.common,
        form=battery.form,
        nominal_v=battery.nominal_v,
        size_mm=battery.size_mm,
        chemistries=battery.chemistries,
    )


K = TypeVar("K", bound=str)


def _choices(table: Mapping[K, tuple[str, str]]) -> tuple[Choice, ...]:
    return tuple(Choice(value=key, label=label, detail=detail) for key, (label, detail) in table.items())
