"""A recipe: a finished build as another may follow it, without what is private and what is true of one piece alone."""

import math
from collections.abc import Iterator
from typing import Annotated

from pydantic import Field, StringConstraints

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import say
from pocketspark.core.models import Build, Cell, Gadget, Project
from pocketspark.core.models.build import Plan
from pocketspark.core.models.measuring import is_measured_at
from pocketspark.core.models.model import Model
from pocketspark.core.models.origin import RecipeOrigin, TheirReading
from pocketspark.core.models.plain_text import ON_ONE_LINE
from pocketspark.core.models.project import Basis
from pocketspark.core.models.record import Entry, Moment
from pocketspark.core.questions.build_steps import build_steps
from pocketspark.core.units.reading import METRIC

# What of a cell is true of that very piece.
OF_ONE_CELL = ("measured_capacity_ah", "intake", "tests", "age_years", "inventory_id")


class NotFinishedYet(PocketSparkError, RuntimeError):
    """Only what was measured to its end is handed on."""

    status = 409


# As they go along: some six hundred pixels wide they show a joint, and weigh little.
MOST_PICTURES, MOST_PICTURE_CHARACTERS = 6, 400_000


class RecipePicture(Model):
    """A photograph that its owner has chosen to hand on: JPEG in base64, without what a camera wrote into it."""

    caption: Annotated[str, StringConstraints(max_length=120), ON_ONE_LINE] = "photograph"
    jpeg: Annotated[str, StringConstraints(max_length=MOST_PICTURE_CHARACTERS), ON_ONE_LINE]


class Recipe(Model):
    """`gadget` and `plan` as they were built, `basis` where their figures came from, `origin` what its author found."""

    gadget: Gadget
    plan: Plan
    basis: dict[str, Basis]
    origin: RecipeOrigin
    pictures: Annotated[tuple[RecipePicture, ...], Field(max_length=MOST_PICTURES)] = ()


def recipe_of(
    project: Project, build: int, author: str, at: Moment, pictures: tuple[RecipePicture, ...] = ()
) -> Recipe:
    """Raises NotFinishedYet, MissingPart."""
    steps, made = build_steps(project, build), project.builds[build]
    if steps.verdict is None or steps.verdict.kind == "unproven":
        raise NotFinishedYet(say("a recipe is made of a build that is proven, or finished with reservations"))
    plan = _without_the_piece(made)
    origin = RecipeOrigin(
        author=author,
        made_at=at,
        proven=steps.verdict.kind == "proven",
        bench_hours=round(steps.bench_hours, 2),
        readings=tuple(
            TheirReading(step=step.key, value=step.value)
            for step in steps.steps
            if step.value is not None and math.isfinite(step.value)
        ),
        went_wrong=tuple(entry.text for entry in project.logbook if entry.kind in ("fault", "remedy"))[:60],
    )
    before = f"builds.{made.id}."
    basis: dict[str, Basis] = {
        path.replace(before, "builds.build1.", 1): said
        for path, said in project.basis.items()
        if path.startswith(("gadget.", before)) and ".record." not in path
    }
    return Recipe(gadget=project.gadget, plan=plan, basis=basis, origin=origin, pictures=pictures)


def _without_the_piece(build: Build) -> Plan:
    fields = {name: getattr(build, name) for name in Plan.model_fields}
    fields["id"], fields["recipe"] = "build1", None
    fields["cell"] = _another(build.cell) if build.cell else None
    fields["unlike_cells"] = tuple(map(_another, build.unlike_cells))
    fields["boards"] = tuple(board.model_copy(update={"inventory_id": None}) for board in build.boards)
    return Plan.model_construct(**fields)


def _another(cell: Cell) -> Cell:
    """The same kind of cell: of this one nobody has measured anything."""
    defaults = {name: Cell.model_fields[name].get_default() for name in OF_ONE_CELL if name in Cell.model_fields}
    return cell.model_copy(update=defaults)


def project_after(recipe: Recipe, at: Moment) -> Project:
    """A conversion that follows it. What its author measured is guessed here, until it is measured in this piece."""
    build = Build.model_validate({**recipe.plan.model_dump(mode="json"), "id": "build1", "recipe": recipe.origin})
    project = Project(
        gadget=recipe.gadget,
        builds=(build,),
        basis=recipe.basis,
        logbook=(Entry(at=at, kind="note", station="survey", text=_said_of(recipe.origin)),),
    )
    return Project.model_validate(project.model_dump(mode="json") | {"basis": dict(_guessed(project))})


def _said_of(origin: RecipeOrigin) -> str:
    author = origin.author or say("somebody unnamed")
    says = say("After a recipe by {author}. Its readings are of another piece: measure yours.", author=author)
    if not origin.unchanged:
        says = say("{says} Somebody has changed it since.", says=says)
    return says.text(METRIC)


def _guessed(project: Project) -> Iterator[tuple[str, Basis]]:
    """Where every figure came from, with nothing measured."""
    for path, said in project.basis.items():
        yield path, "inferred" if said == "measured" else said
    for path in _measured_by_their_place(project):
        if path not in project.basis:
            yield path, "inferred"


def _measured_by_their_place(project: Project) -> Iterator[str]:
    """Fields that hold a reading, and count as measured where nothing is said of them."""
    gadget = project.gadget
    for mode in gadget.modes:
        yield f"gadget.modes.{mode.id}.current_a"
        if mode.peak_a is not None:
            yield f"gadget.modes.{mode.id}.peak_a"
    candidates = {
        "gadget.off_current_a": gadget.off_current_a or None,
        "gadget.bay": gadget.bay,
        "gadget.existing_charging.adapter_v": gadget.existing_charging.adapter_v,
        "gadget.existing_charging.current_a": gadget.existing_charging.current_a,
        "gadget.shell.outer_mm": gadget.shell.outer_mm,
    }
    yield from (path for path, value in candidates.items() if value is not None and is_measured_at(path))
