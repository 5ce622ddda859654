"""The tables, words and parts of the trade: what never changes while the server runs."""

from collections.abc import Mapping
from typing import Any, TypeVar

from fastapi import APIRouter, Request

from pocketspark.core.cells.intake_readings import INTAKE_READINGS
from pocketspark.core.finding import LEVELS
from pocketspark.core.glossary import GLOSSARY
from pocketspark.core.guide import GUIDES, Guide
from pocketspark.core.kinds.board_features import in_a_list
from pocketspark.core.kinds.regulators import KINDS as REGULATOR_KINDS
from pocketspark.core.kinds.stations import PLACES, STATIONS
from pocketspark.core.message import NOTHING, Label, Message, as_message, row_of, say
from pocketspark.core.models import BATTERIES, CELL_CLASSES, CHEMISTRIES, FRONT_ENDS, SOURCES
from pocketspark.core.models.band import BANDS
from pocketspark.core.models.bay import ARRANGEMENTS, OBSTACLE_STATES
from pocketspark.core.models.build import (
    CELL_LEADS,
    CENTRES,
    PLUGGED_IN,
    POLICIES,
    STYLES,
    SWITCH_PLACES,
    USES_WHILE_CHARGING,
    WHO_CHARGES,
)
from pocketspark.core.models.cell import ORIGINS
from pocketspark.core.models.climate import CLIMATES, MONTHS
from pocketspark.core.models.gadget import (
    EXISTING_CHARGING,
    JOBS,
    LOAD_LAWS,
    MOVED,
    OFF_PATHS,
    PURPOSES,
    SOUNDS,
    TREATMENTS,
)
from pocketspark.core.models.input_kind import INPUTS
from pocketspark.core.models.inventory_item import InventoryKind
from pocketspark.core.models.measuring import MEASURING
from pocketspark.core.models.model import Model
from pocketspark.core.models.part_fields import PartField, part_kinds
from pocketspark.core.models.project import BASES
from pocketspark.core.models.record import ENTRY_KINDS
from pocketspark.core.models.small_part import SMALL_PARTS, SmallPartKind
from pocketspark.core.models.supply import SUPPLY_KINDS
from pocketspark.core.models.tools import CALIPERS, METERS, Tool
from pocketspark.core.models.wiring import EXTRA_KINDS, THERMISTOR_LEADS
from pocketspark.core.physics.heat import USUAL_OUTER_MM
from pocketspark.core.proposals.wishes import WISH_GROUPS, WISHES, WishGroup
from pocketspark.core.questions.beginning import THINGS, UNKNOWN
from pocketspark.core.questions.summary import STAGES
from pocketspark.core.rules import RULES, Rule
from pocketspark.core.units.figures import amps
from pocketspark.formats.exports import EXPORTS
from pocketspark.formats.paper import PaperSize
from pocketspark.formats.schemas import schemas
from pocketspark.parts import LibraryPart, PackFile
from pocketspark.server.asking import OurLibrary
from pocketspark.server.problems import PROBLEM_RESPONSES_DEFINED

router = APIRouter(prefix="/api", tags=["reference"], responses=PROBLEM_RESPONSES_DEFINED)


class FieldPlace(Model):
    """The field of a place that holds `part` stands at this station; the first that fits."""

    part: str
    station: str


class Choice(Model):
    """One value a field may take, in words. `asks`: the fields that count once it is taken."""

    value: str
    label: Label
    detail: Message = NOTHING
    asks: tuple[str, ...] = ()


class BatterySize(Model):
    """One row of the battery table, as the picture and the picker need it."""

    iec: str
    common: Label
    form: str
    nominal_v: float
    size_mm: tuple[float, ...]
    chemistries: tuple[str, ...]


class RuleText(Model):
    """One rule of the handbook. `guide`: the key of the guide that shows how to settle it, "" where none does."""

    code: str
    station: str
    source: Label
    watches: Label
    formula: Message
    limits: Message
    what_to_do: Message
    guide: str


class SmallPartUse(Choice):
    """A kind of small part, with its usual size."""

    value: SmallPartKind
    usual_mm: tuple[float, ...]


class WishChoice(Choice):
    """A wish by its field. `unit`: it takes a figure in this."""

    group: WishGroup
    unit: str


class PartKindFields(Model):
    """One kind of own part, and its fields in the order a maker fills them in."""

    kind: InventoryKind
    label: Label
    teaches: Label
    fields: tuple[PartField, ...]


class ExportChoice(Model):
    """A file that can be made of a build. `pages`: where it is offered; `ending`: of its name; `paper`: for which."""

    key: str
    label: Label
    pages: tuple[str, ...]
    ending: str
    paper: PaperSize | None


class GlossaryTerm(Model):
    """One word of the trade. `fields`: the last steps of the paths whose labels use it."""

    term: Label
    sentence: Label
    also: tuple[str, ...]
    fields: tuple[str, ...]


class ReferenceTables(Model):
    """The tables and labels of the trade, so that they stand once, here."""

    batteries: tuple[BatterySize, ...]
    chemistries: tuple[Choice, ...]
    front_ends: tuple[Choice, ...]
    sounds: tuple[Choice, ...]
    bands: tuple[Choice, ...]
    moved: tuple[Choice, ...]
    jobs: tuple[Choice, ...]
    laws: tuple[Choice, ...]
    cell_classes: tuple[Choice, ...]
    origins: tuple[Choice, ...]
    sources: tuple[Choice, ...]
    policies: tuple[Choice, ...]
    uses_while_charging: tuple[Choice, ...]
    wish_groups: tuple[Choice, ...]
    wishes: tuple[WishChoice, ...]
    calipers: tuple[Tool, ...]
    meters: tuple[Tool, ...]
    supply_kinds: tuple[Choice, ...]
    purposes: tuple[Choice, ...]
    existing_charging_kinds: tuple[Choice, ...]
    treatments: tuple[Choice, ...]
    climates: tuple[Choice, ...]
    months: tuple[str, ...]
    plugged_in: tuple[Choice, ...]
    off_paths: tuple[Choice, ...]
    arrangements: tuple[Choice, ...]
    obstacle_states: tuple[Choice, ...]
    styles: tuple[Choice, ...]
    who_charges: tuple[Choice, ...]
    inputs: tuple[Choice, ...]
    centres: tuple[Choice, ...]
    regulators: tuple[Choice, ...]
    cell_leads: tuple[Choice, ...]
    thermistor_leads: tuple[Choice, ...]
    extra_kinds: tuple[Choice, ...]
    switch_places: tuple[Choice, ...]
    small_parts: tuple[SmallPartUse, ...]
    usual_outer_mm: tuple[float, ...]  # of a gadget whose outside nobody has measured
    entry_kinds: tuple[Choice, ...]
    bases: tuple[Choice, ...]
    intake_readings: tuple[Choice, ...]
    measuring: tuple[str, ...]  # places that are filled by measuring; a star stands for any row
    levels: tuple[Choice, ...]
    stations: tuple[Choice, ...]
    places: tuple[FieldPlace, ...]
    part_kinds: tuple[PartKindFields, ...]
    glossary: tuple[GlossaryTerm, ...]
    things: tuple[Choice, ...]
    unknown: dict[str, str]  # what not knowing an answer costs, by the answer
    stages: tuple[Choice, ...]
    exports: tuple[ExportChoice, ...]
    measured_by: dict[str, str]  # the guide that shows how to measure a field, by the last step of its path
    rules: tuple[RuleText, ...]


class ListedPart(LibraryPart):
    """A part as it stands in a list of its kind."""

    called: Label  # its name, to whoever reads
    says: Message  # what tells a board from its neighbours
    pack: str = ""  # the pack it came in; empty of one that is shipped


@router.get("/parts")
def parts(library: OurLibrary) -> list[ListedPart]:
    return [
        ListedPart(
            **dict(part),
            called=part.board.name if part.board else part.cell.name if part.cell else "",
            says=in_a_list(part.board) if part.board else NOTHING,
            pack=part.id.partition("/")[0] if "/" in part.id else "",
        )
        for part in library.parts
    ]


class ListedPack(Model):
    """A file of the folder of packs: what it holds, or why it is not used."""

    file: str
    title: str
    version: str
    origin: str
    licence: str
    parts: int
    why_not: str


@router.get("/packs")
def packs(request: Request) -> list[ListedPack]:
    found: list[PackFile] = request.app.state.packs
    return [
        ListedPack(
            file=one.file,
            title=one.pack.title if one.pack else "",
            version=one.pack.version if one.pack else "",
            origin=one.pack.origin if one.pack else "",
            licence=one.pack.licence if one.pack else "",
            parts=len(one.pack.parts) if one.pack else 0,
            why_not=one.why_not,
        )
        for one in found
    ]


@router.get("/guides")
def guides() -> tuple[Guide, ...]:
    return GUIDES


@router.get("/schema")
def schema() -> dict[str, Any]:
    return schemas()["project"]


@router.get("/reference")
def reference() -> ReferenceTables:
    return ReferenceTables(
        batteries=_batteries(),
        chemistries=tuple(Choice(value=key, label=facts.label) for key, facts in CHEMISTRIES.items()),
        front_ends=tuple(
            Choice(
                value=key,
                label=facts.label,
                detail=say(
                    "too much: {too_much}; too little: {too_little}",
                    too_much=facts.too_much,
                    too_little=facts.too_little,
                ),
            )
            for key, facts in FRONT_ENDS.items()
        ),
        sounds=_choices(SOUNDS),
        bands=tuple(Choice(value=key, label=of.label, detail=as_message(of.detail)) for key, of in BANDS.items()),
        moved=_choices(MOVED),
        jobs=_choices(JOBS),
        laws=_choices(LOAD_LAWS),
        cell_classes=tuple(
            Choice(value=key, label=str(say("{label} ({remark})", label=facts.label, remark=facts.remark)))
            for key, facts in CELL_CLASSES.items()
        ),
        origins=_choices(ORIGINS),
        sources=tuple(
            Choice(value=key, label=facts.label, detail=as_message(amps(facts.limit_a)))
            for key, facts in SOURCES.items()
        ),
        policies=_choices(POLICIES),
        uses_while_charging=_choices(USES_WHILE_CHARGING),
        wish_groups=_choices(WISH_GROUPS),
        wishes=tuple(
            WishChoice(value=key, label=text.label, group=text.group, unit=text.unit) for key, text in WISHES.items()
        ),
        calipers=tuple(CALIPERS.values()),
        meters=tuple(METERS.values()),
        supply_kinds=_choices(SUPPLY_KINDS),
        purposes=_choices(PURPOSES),
        existing_charging_kinds=tuple(
            Choice(value=key, label=facts.label, detail=as_message(facts.detail))
            for key, facts in EXISTING_CHARGING.items()
        ),
        treatments=_choices(TREATMENTS),
        climates=tuple(Choice(value=key, label=of.label, detail=as_message(of.detail)) for key, of in CLIMATES.items()),
        months=MONTHS,
        plugged_in=_choices(PLUGGED_IN),
        off_paths=_choices(OFF_PATHS),
        arrangements=_choices(ARRANGEMENTS),
        obstacle_states=_choices(OBSTACLE_STATES),
        styles=tuple(
            Choice(
                value=key,
                label=facts.label,
                detail=row_of([facts.detail, *(["reversible"] if facts.reversible else [])]),
            )
            for key, facts in STYLES.items()
        ),
        who_charges=_choices(WHO_CHARGES),
        inputs=tuple(
            Choice(value=key, label=kind.label, detail=as_message(kind.detail), asks=kind.asks)
            for key, kind in INPUTS.items()
        ),
        centres=_choices(CENTRES),
        regulators=tuple(
            Choice(value=key, label=kind.label, detail=as_message(kind.detail), asks=kind.fields)
            for key, kind in REGULATOR_KINDS.items()
        ),
        cell_leads=_choices(CELL_LEADS),
        thermistor_leads=_labels(THERMISTOR_LEADS),
        extra_kinds=_choices(EXTRA_KINDS),
        switch_places=_choices(SWITCH_PLACES),
        small_parts=tuple(
            SmallPartUse(value=key, label=facts.label, detail=as_message(facts.says), usual_mm=facts.usual_mm)
            for key, facts in SMALL_PARTS.items()
        ),
        entry_kinds=_labels(ENTRY_KINDS),
        bases=_choices(BASES),
        intake_readings=_labels(INTAKE_READINGS),
        measuring=tuple(MEASURING),
        levels=_choices(LEVELS),
        places=tuple(FieldPlace(part=part, station=station) for part, station in PLACES),
        stations=tuple(
            Choice(value=key, label=station.label, detail=as_message(station.answers))
            for key, station in STATIONS.items()
        ),
        part_kinds=tuple(
            PartKindFields(kind=key, label=kind.label, teaches=kind.teaches, fields=kind.fields)
            for key, kind in part_kinds().items()
        ),
        glossary=tuple(
            GlossaryTerm(term=term.term, sentence=term.sentence, also=term.also, fields=term.fields)
            for term in GLOSSARY
        ),
        things=tuple(
            Choice(value=key, label=facts.label, detail=as_message(facts.detail)) for key, facts in THINGS.items()
        ),
        unknown=dict(UNKNOWN),
        stages=_choices(STAGES),
        usual_outer_mm=USUAL_OUTER_MM,
        exports=tuple(
            ExportChoice(key=key, label=export.label, pages=export.pages, ending=export.ending, paper=export.paper)
            for key, export in EXPORTS.items()
        ),
        measured_by={field: guide.key for guide in reversed(GUIDES) for field in guide.fields},
        rules=tuple(_rule_text(rule) for rule in RULES.values()),
    )


def _rule_text(rule: Rule) -> RuleText:
    return RuleText(
        code=rule.code,
        station=rule.station,
        source=rule.source,
        watches=rule.watches,
        formula=rule.formula,
        limits=rule.limits,
        what_to_do=rule.advice,
        guide=rule.guide,
    )


def _batteries() -> tuple[BatterySize, ...]:
    return tuple(
        BatterySize(
            iec=battery.iec,
            common=battery.common,
            form=battery.form,
            nominal_v=battery.nominal_v,
            size_mm=battery.size_mm,
            chemistries=battery.chemistries,
        )
        for battery in BATTERIES.values()
    )


K = TypeVar("K", bound=str)


def _choices(table: Mapping[K, tuple[str, str]]) -> tuple[Choice, ...]:
    return tuple(Choice(value=key, label=label, detail=as_message(detail)) for key, (label, detail) in table.items())


def _labels(table: Mapping[K, str]) -> tuple[Choice, ...]:
    return tuple(Choice(value=key, label=label) for key, label in table.items())
