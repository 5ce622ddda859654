"""The maker's own parts, with how many of each are built into something."""

from contextlib import suppress

from pocketspark.core.models import Project
from pocketspark.core.proposals.own_parts import OwnStock, pieces_built_in
from pocketspark.store import Inventory, InventoryPart, NothingThere, Projects, Unreadable


def own_stock(inventory: Inventory, projects: Projects, but: int | None = None) -> list[tuple[InventoryPart, OwnStock]]:
    """Each part as it is stored, and as it is at hand. `but`: a conversion whose own builds take nothing away."""
    read: dict[int, Project] = {}

    def holding(part: InventoryPart) -> list[Project]:
        others = [project_id for project_id in part.used_in if project_id != but]
        for project_id in others:
            if project_id not in read:
                with suppress(NothingThere, Unreadable):
                    read[project_id] = projects.get(project_id).project
        return [read[project_id] for project_id in others if project_id in read]

    return [
        (part, OwnStock(part.body, part.stock, sum(pieces_built_in(project, part.id) for project in holding(part))))
        for part in inventory.parts()
    ]
