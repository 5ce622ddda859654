"""A project: the gadget, the builds considered for it, and where each number came from."""

from collections.abc import Iterable, Mapping
from copy import deepcopy
from typing import Annotated, Any, Literal, Self, TypeVar

from pydantic import Field, StringConstraints, model_validator

from pocketspark.core.models import paths
from pocketspark.core.models.board import Board
from pocketspark.core.models.build import Build
from pocketspark.core.models.cell import Cell
from pocketspark.core.models.gadget import Gadget
from pocketspark.core.models.measuring import is_measured_at
from pocketspark.core.models.model import Model, Plain, Tolerance, named_rows, row_id
from pocketspark.core.models.plain_text import ON_LINES, ON_ONE_LINE
from pocketspark.core.models.record import Entry, StepRecord
from pocketspark.core.models.tools import METERS
from pocketspark.core.units.quantity import Quantity

P = TypeVar("P", Cell, Board)
Basis = Literal["measured", "label", "inferred", "default"]
BASES: Mapping[Basis, tuple[str, str]] = {
    "measured": ("measured", "read on the bench, on this very thing"),
    "label": ("printed", "printed on it, or from its data sheet"),
    "inferred": ("guessed", "worked out from something else that is known"),
    "default": ("usual", "what such things usually have; nobody has looked"),
}
FORMAT: Literal["pocket-spark/2"] = "pocket-spark/2"
SOFT: frozenset[Basis] = frozenset({"inferred", "default"})


Tag = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=40), ON_ONE_LINE]


Currency = Annotated[str, StringConstraints(strip_whitespace=True, max_length=6), ON_ONE_LINE]


class Costs(Model):
    """What the maker's time and batteries cost, in the money of the parts' prices. None: a rough usual price."""

    currency: Currency = ""  # as it is to be written behind a price
    bench_hours: Annotated[float, Quantity("h", 0, 200)] | None = None  # None: what the steps of the build add up to
    hourly_rate: Plain = 0.0  # a hobby hour costs nothing unless the maker says so
    battery_price: Plain | None = None  # one old battery


# The last step of a path that adds a row at the end of a list: "gadget.modes.+".
APPENDED = "+"


class Edit(Model):
    """Set one place of the document. `basis.…` before a path sets where its value came from.

    A path that ends in "+" adds a row to a list; a row that is set to null goes.
    """

    path: str
    value: Any  # whatever the place takes; the project model judges it


class Project(Model):
    """The whole document, as saved and exported.

    `basis` maps a place ("gadget.modes.mode1.current_a", "builds.build2.cell.capacity_ah") to where its value came
    from. A place without an entry counts as *label* where it holds a value of its own, *default* where it does not.
    """

    format: Literal["pocket-spark/2"] = FORMAT
    gadget: Gadget
    builds: Annotated[tuple[Build, ...], named_rows("build"), Field(min_length=1, max_length=12)] = (
        Build(id="build1"),
    )
    basis: dict[str, Basis] = Field(default_factory=dict, max_length=400)
    costs: Costs = Costs()
    meter_share: Tolerance = METERS["usual"].right_to  # what the maker's multimeter is right to
    logbook: Annotated[tuple[Entry, ...], named_rows("entry"), Field(max_length=1000)] = ()
    notes: Annotated[str, Field(max_length=10_000), ON_LINES] = ""  # printed on the sheet
    tags: Annotated[tuple[Tag, ...], Field(max_length=12)] = ()  # to find it again among many

    @model_validator(mode="after")
    def _basis_by_id(self) -> Self:
        """Every basis is stored under the ids of its rows. One whose row or part is gone, goes with it."""
        named = {
            paths.canonical(self, path): basis for path, basis in self.basis.items() if _leads_somewhere(self, path)
        }
        if named != self.basis:
            object.__setattr__(self, "basis", named)
        return self

    # Reading -----------------------------------------------------------------------------------------------------

    def canonical(self, path: str) -> str:
        """The same path, rows named by their ids."""
        return paths.canonical(self, path)

    def build_number(self, name: str | int) -> int:
        """Where a build stands among the others, by its id or its number. Raises IndexError."""
        number = paths.row_number(self.builds, str(name))
        if number is None:
            raise IndexError(f"this project has no build {name}")
        return number

    def basis_of(self, path: str) -> Basis:
        """Where the value at this path came from; *default* for a path that leads nowhere.

        What is noted of a group holds for everything in it of which nothing is noted itself.
        """
        return self.basis.get(path) or self.basis_at(self.canonical(path), *_value_and_default(self, path))

    def basis_at(self, place: str, value: Any, default: Any) -> Basis:
        """The same of a place whose rows are named by their ids, and at which this value stands."""
        noted = next((self.basis[group] for group in paths.groups_of(place) if group in self.basis), None)
        if noted and (place in self.basis or value is not None):
            return noted
        if value is None or value == default:
            return "default"
        return "measured" if is_measured_at(place) else "label"

    # Changing ----------------------------------------------------------------------------------------------------

    def apply(self, edits: Iterable[Edit]) -> Self:
        """The same project with these places set, and with what is known of where their values came from.

        A part or group that is replaced takes the basis of its figures with it, unless these edits say otherwise.
        Raises ValidationError where a value is refused, and paths.NoSuchPlace where a path leads nowhere.
        """
        document = self.model_dump(mode="json", warnings=False)
        apply_edits(document, edits)
        return type(self).model_validate(document)

    def with_value(self, path: str, value: object) -> Self:
        """The same project with the value at this path replaced, judged by nothing: for trying what would be if."""
        changed = _replaced(self, path.split("."), value, path)
        assert isinstance(changed, type(self))
        return changed

    def with_build_copied(self, name: str | int, new_name: str, *, practice: bool = False) -> Self:
        """The same project with the plan of this build once more, at the end, with an empty record."""
        old = self.builds[self.build_number(name)]
        new_id = next(free for n in range(1, 99) if (free := f"build{n}") not in {build.id for build in self.builds})
        copy = old.copied_plan(new_name, practice=practice).model_copy(update={"id": new_id})
        before, after = f"builds.{old.id}.", f"builds.{new_id}."
        copied = {
            after + path.removeprefix(before): basis
            for path, basis in self.basis.items()
            if path.startswith(before) and not path.startswith(f"{before}record.")
        }
        changed = self.model_copy(update={"builds": (*self.builds, copy), "basis": {**self.basis, **copied}})
        return type(self).model_validate(changed.model_dump(mode="json"))

    def for_another(self, name: str) -> Self:
        """The same survey and plans for another gadget of the kind. What was done and logged stays with the first."""
        builds = [
            build.copied_plan(build.name, practice=build.practice).model_copy(update={"id": build.id})
            for build in self.builds
        ]
        gadget = self.gadget.model_copy(update={"name": name})
        changed = self.model_copy(update={"gadget": gadget, "builds": tuple(builds), "logbook": ()})
        return type(self).model_validate(changed.model_dump(mode="json"))

    @property
    def parts(self) -> tuple[Cell | Board, ...]:
        """Cells and boards of all builds."""
        held = ((build.cell, *build.boards) for build in self.builds)
        return tuple(part for parts in held for part in parts if part is not None)

    def with_inventory_ids(self, ids: Mapping[int, int]) -> Self:
        """The same project, its copies of own parts renumbered; one that is not among `ids` is nobody's copy."""

        def renumbered(part: P) -> P:
            known = part.inventory_id
            return part.model_copy(update={"inventory_id": None if known is None else ids.get(known)})

        builds = (
            build.model_copy(
                update={
                    "cell": None if build.cell is None else renumbered(build.cell),
                    "boards": tuple(renumbered(board) for board in build.boards),
                }
            )
            for build in self.builds
        )
        return self.model_copy(update={"builds": tuple(builds)})

    def with_photo_ids(self, ids: Mapping[int, int]) -> Self:
        """The same project, its references to photographs renumbered; one that is not among `ids` is dropped."""
        return self.model_copy(
            update={
                "builds": tuple(_build_with_photos(build, ids) for build in self.builds),
                "logbook": tuple(_entry_with_photo(entry, ids) for entry in self.logbook),
            }
        )


def apply_edits(document: dict[str, Any], edits: Iterable[Edit]) -> None:
    """Make these edits in a document that is not read yet, whatever stands in it. Raises paths.NoSuchPlace."""
    if not isinstance(document.get("basis"), dict):
        document["basis"] = {}
    for edit in edits:
        if edit.path.startswith("basis."):
            place = paths.canonical(document, edit.path.removeprefix("basis."))
            document["basis"][place] = edit.value
            continue
        place = paths.canonical(document, edit.path)
        if isinstance(edit.value, dict | list | None) or isinstance(paths.value_at(document, place), dict):
            basis = document["basis"]
            document["basis"] = {path: said for path, said in basis.items() if not paths.within(path, place)}
        _set(document, place, deepcopy(edit.value))  # later ones may reach into it


def _set(document: dict[str, Any], path: str, value: Any) -> None:
    *way, last = path.split(".")
    branch: Any = document
    for step in way:
        if isinstance(branch, list):
            branch = branch[_row(branch, step, path)]
            continue
        if not isinstance(branch, dict):
            raise paths.NoSuchPlace(path)
        if branch.get(step) is None:
            branch[step] = {}
        branch = branch[step]
    if isinstance(branch, dict):
        branch[last] = value
    elif not isinstance(branch, list):
        raise paths.NoSuchPlace(path)
    elif last == APPENDED:
        branch.append(_with_free_id(branch, value, way[-1].removesuffix("s")))
    elif value is None:
        del branch[_row(branch, last, path)]
    else:
        branch[_row(branch, last, path)] = value


def _row(rows: list[Any], step: str, path: str) -> int:
    number = paths.row_number(rows, step)
    if number is None:
        raise paths.NoSuchPlace(path)
    return number


def _with_free_id(rows: list[Any], value: Any, stem: str) -> Any:
    """The new row, with an id that none of the others has."""
    taken = {row_id(row) for row in rows}
    free = next(name for n in range(1, 9999) if (name := f"{stem}{n}") not in taken)
    return {**value, "id": free} if isinstance(value, dict) else value


def _leads_somewhere(project: Project, path: str) -> bool:
    """Is there a place for this basis? The group that holds the field has to be there, the field need not be filled in.

    A group that is absent, but would come into being with its first field, counts as there.
    """
    branch: Any = project
    for step in path.split("."):
        if isinstance(branch, tuple):
            number = paths.row_number(branch, step)
            if number is None:
                return False
            branch = branch[number]
        elif isinstance(branch, Model) and step in type(branch).model_fields:
            branch = getattr(branch, step)
        else:
            return branch is None and _absent_group_has(project, path)
    return True


def _absent_group_has(project: Project, path: str) -> bool:
    group, _, field = path.rpartition(".")
    kind = _model_of_absent(project, group)
    return kind is not None and field in kind.model_fields


def _value_and_default(project: Project, path: str) -> tuple[Any, Any]:
    value: Any = project
    default: Any = None
    for step in path.split("."):
        if isinstance(value, tuple):
            number = paths.row_number(value, step)
            within_default = number is not None and isinstance(default, tuple) and number < len(default)
            default = default[number] if within_default and number is not None and isinstance(default, tuple) else None
            value = None if number is None else value[number]
        elif isinstance(value, Model) and step in type(value).model_fields:
            default = type(value).model_fields[step].default
            value = getattr(value, step)
        else:
            return None, None
    return value, default


def _model_of_absent(project: Project, path: str) -> type[Model] | None:
    """The model that would stand at this place of an optional group: Window at "gadget.window"."""
    holder, _, field = path.rpartition(".")
    parent = paths.value_at(project, holder) if holder else project
    return _optional_group(parent, field) if isinstance(parent, Model) else None


def _optional_group(parent: Model, field: str) -> type[Model] | None:
    annotation = type(parent).model_fields[field].annotation if field in type(parent).model_fields else None
    for choice in getattr(annotation, "__args__", ()):
        if isinstance(choice, type) and issubclass(choice, Model):
            return choice
    return None


def _replaced(branch: Any, steps: list[str], value: object, path: str) -> Any:
    """The branch with the value at the end of these steps replaced; everything beside it is shared."""
    if not steps:
        return value
    step, rest = steps[0], steps[1:]
    if isinstance(branch, tuple):
        number = paths.row_number(branch, step)
        if number is None:
            raise paths.NoSuchPlace(path)
        return (*branch[:number], _replaced(branch[number], rest, value, path), *branch[number + 1 :])
    if not isinstance(branch, Model) or step not in type(branch).model_fields:
        raise paths.NoSuchPlace(path)
    inner = getattr(branch, step)
    if inner is None and rest:
        group = _optional_group(branch, step)
        if group is None:
            raise paths.NoSuchPlace(path)
        inner = group.model_construct(**{name: field.get_default() for name, field in group.model_fields.items()})
    return branch.model_copy(update={step: _replaced(inner, rest, value, path)})


def _build_with_photos(build: Build, ids: Mapping[int, int]) -> Build:
    steps = tuple(_step_with_photos(step, ids) for step in build.record.steps)
    return build.model_copy(update={"record": build.record.model_copy(update={"steps": steps})})


def _step_with_photos(step: StepRecord, ids: Mapping[int, int]) -> StepRecord:
    return step.model_copy(update={"photo_ids": tuple(ids[known] for known in step.photo_ids if known in ids)})


def _entry_with_photo(entry: Entry, ids: Mapping[int, int]) -> Entry:
    return entry.model_copy(update={"photo_id": None if entry.photo_id is None else ids.get(entry.photo_id)})
