"""The maker's own parts, with how many of each are built into something."""

from collections.abc import Callable, Container
from contextlib import suppress

from pocketspark.core.models import Project
from pocketspark.core.proposals.own_parts import OwnStock, pieces_built_in, pieces_promised
from pocketspark.store import Inventory, InventoryPart, NothingThere, Projects, Unreadable


def projects_by_part(projects: Projects, but: int | None = None) -> Callable[[InventoryPart], list[Project]]:
    """The conversions that hold a part, each read once however many parts it holds."""
    read: dict[int, Project] = {}

    def holding(part: InventoryPart) -> list[Project]:
        others = [project_id for project_id in part.used_in if project_id != but]
        for project_id in others:
            if project_id not in read:
                with suppress(NothingThere, Unreadable):
                    read[project_id] = projects.get(project_id).project
        return [read[project_id] for project_id in others if project_id in read]

    return holding


def own_stock(
    inventory: Inventory, projects: Projects, but: int | None = None, on_test: Container[int] = ()
) -> list[tuple[InventoryPart, OwnStock]]:
    """Each part as it is stored, and as it is at hand. `but`: a conversion whose own builds take nothing away;
    `on_test`: parts of which one is on a load."""
    holding = projects_by_part(projects, but)

    def at_hand(part: InventoryPart) -> OwnStock:
        held_by = holding(part)
        return OwnStock(
            part.body,
            part.stock,
            built_in=sum(pieces_built_in(project, part.id) for project in held_by),
            promised=sum(pieces_promised(project, part.id) for project in held_by),
            on_test=int(part.id in on_test),
        )

    return [(part, at_hand(part)) for part in inventory.parts()]
