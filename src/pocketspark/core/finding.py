"""A finding: one judgement with its number, working, source and, where there is one, its remedy."""

from typing import Any, Literal

from pocketspark.core.models.model import Model

Level = Literal["stop", "caution", "note", "pass"]
Station = Literal["survey", "cell", "power", "charge", "fit", "wire", "build", "prove"]

STATIONS: tuple[Station, ...] = ("survey", "cell", "power", "charge", "fit", "wire", "build", "prove")
GRAVITY: dict[Level, int] = {"stop": 3, "caution": 2, "note": 1, "pass": 0}


class Edit(Model):
    """Set one field of the project document. `path` is dotted, with indices: "builds.0.r_prog_ohm"."""

    path: str
    value: Any  # whatever the field takes; the project model judges it


class Remedy(Model):
    """A change the tool can make by itself, as edits to the project document."""

    label: str
    edits: tuple[Edit, ...]


class Finding(Model):
    """One judgement. `assumed`: it rests on something inferred or default, named in `rests_on`."""

    code: str
    level: Level
    station: Station
    headline: str
    working: str = ""
    source: str = ""
    assumed: bool = False
    rests_on: tuple[str, ...] = ()
    remedy: Remedy | None = None


def worst(findings: list[Finding], default: Level = "pass") -> Level:
    """The gravest level among them."""
    return max((finding.level for finding in findings), key=GRAVITY.__getitem__, default=default)
