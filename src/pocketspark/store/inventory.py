"""The inventory: the maker's own cells, boards and resistors, with stock."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from pydantic import JsonValue
from sqlalchemy import Engine, func, select
from sqlalchemy.orm import Session

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import say
from pocketspark.core.models.inventory_item import INVENTORY_MODELS, InventoryKind, InventoryModel
from pocketspark.store.nothing_there import NothingThere
from pocketspark.store.tables import PartRow, PartUseRow, ProjectRow
from pocketspark.store.utc import now


class StillUsed(PocketSparkError, RuntimeError):
    """The part stands in a build, so it stays; the message names the conversions."""

    status = 409


class PartChanged(PocketSparkError, RuntimeError):
    """The part was changed elsewhere since the caller read it. Nothing was written; `stored` is what is there now."""

    status = 409

    def __init__(self, stored: "InventoryPart") -> None:
        self.stored = stored
        super().__init__(f"{stored.body.name} was changed in another window meanwhile; look at it again")


@dataclass(frozen=True)
class InventoryPart:
    """One part with how many there are, and the conversions whose builds hold it. A change names its `revision`."""

    id: int
    revision: int
    kind: InventoryKind
    body: InventoryModel
    stock: int
    used_by: tuple[str, ...]
    used_in: tuple[int, ...] = ()  # the same conversions by their numbers


# Number and name of each conversion that holds a part, by the part's number.
Uses = Mapping[int, Sequence[tuple[int, str]]]


class Inventory:
    """All of the maker's own parts in one database."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def parts(self, kind: InventoryKind | None = None) -> list[InventoryPart]:
        """All parts, or those of one kind, by name."""
        wanted = select(PartRow).order_by(PartRow.kind, PartRow.name, PartRow.id)
        if kind is not None:
            wanted = wanted.where(PartRow.kind == kind)
        with Session(self._engine) as session:
            uses = self._uses(session)
            return [self._part(row, uses) for row in session.scalars(wanted)]

    def stamp(self) -> str:
        """Another one whenever a part is added, changed or taken away; without a look into them."""
        columns = func.count(PartRow.id), func.max(PartRow.id), func.sum(PartRow.revision)
        with Session(self._engine) as session:
            return "-".join(map(str, session.execute(select(*columns)).one()))

    def get(self, part_id: int) -> InventoryPart:
        """Raises NothingThere."""
        with Session(self._engine) as session:
            return self._part(self._row(session, part_id), self._uses(session))

    def add(self, kind: InventoryKind, body: InventoryModel, stock: int) -> InventoryPart:
        with Session(self._engine) as session, session.begin():
            row = PartRow(kind=kind, name=body.name, body=_plain(body), stock=stock, made_at=now())
            session.add(row)
            session.flush()
            return self._part(row, {})

    def change(self, part_id: int, body: InventoryModel, stock: int, *, based_on: int | None = None) -> InventoryPart:
        """Builds that hold a copy keep the figures they were judged with. Raises NothingThere, PartChanged."""
        with Session(self._engine) as session, session.begin():
            session.connection().exec_driver_sql("BEGIN IMMEDIATE")
            row = self._row(session, part_id)
            if based_on is not None and row.revision != based_on:
                raise PartChanged(self._part(row, self._uses(session)))
            row.name, row.body, row.stock, row.revision = body.name, _plain(body), stock, row.revision + 1
            return self._part(row, self._uses(session))

    def remove(self, part_id: int) -> None:
        """Raises StillUsed where a build holds it."""
        with Session(self._engine) as session, session.begin():
            row = self._row(session, part_id)
            if users := self._uses(session).get(part_id):
                raise StillUsed(
                    say(
                        "{name} stays: it stands in {names}",
                        name=row.name,
                        names=", ".join((name for _, name in users)),
                    )
                )
            session.delete(row)

    def _row(self, session: Session, part_id: int) -> PartRow:
        if (row := session.get(PartRow, part_id)) is None:
            raise NothingThere(say("there is no part {part_id} in your parts", part_id=part_id))
        return row

    def _part(self, row: PartRow, uses: Uses) -> InventoryPart:
        kind: InventoryKind = row.kind  # type: ignore[assignment]  # written by this class only
        body = INVENTORY_MODELS[kind].model_validate(row.body)
        users = uses.get(row.id, ())
        names, ids = tuple(name for _, name in users), tuple(number for number, _ in users)
        return InventoryPart(row.id, row.revision, kind, body, row.stock, names, ids)

    def _uses(self, session: Session) -> Uses:
        """The conversions on the shelf, by the own part that one of their builds holds."""
        held = (
            select(PartUseRow.part_id, ProjectRow.id, ProjectRow.name)
            .join(ProjectRow, ProjectRow.id == PartUseRow.project_id)
            .order_by(ProjectRow.id)
        )
        uses: dict[int, list[tuple[int, str]]] = {}
        for part_id, project_id, name in session.execute(held):
            uses.setdefault(part_id, []).append((project_id, name))
        return uses


def _plain(body: InventoryModel) -> dict[str, JsonValue]:
    plain: dict[str, JsonValue] = body.model_dump(mode="json")
    return plain
