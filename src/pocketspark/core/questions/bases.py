"""Where every number of a document came from, as the screen marks it."""

from collections.abc import Iterator
from itertools import zip_longest
from typing import Any

from pocketspark.core.models import Project
from pocketspark.core.models.model import Model, Row
from pocketspark.core.models.project import Basis


def known_bases(project: Project, build: int) -> dict[str, Basis]:
    """The basis of every place in the gadget and in this build that is not *default*."""
    chosen = project.builds[build]
    places = (*_places("gadget", project.gadget), *_places(f"builds.{chosen.id}", chosen))
    bases = {path: project.basis_at(path, value, default) for path, value, default in places}
    return {path: basis for path, basis in (bases | project.basis).items() if basis != "default"}


def _places(path: str, branch: Model) -> Iterator[tuple[str, Any, Any]]:
    """Every field under this place that holds a value of its own, with the value and what it is without one."""
    for name, field in type(branch).model_fields.items():
        value = getattr(branch, name)
        if isinstance(value, Model):
            yield from _places(f"{path}.{name}", value)
        elif isinstance(value, tuple) and value and isinstance(value[0], Row):
            for row in value:
                yield from _places(f"{path}.{name}.{row.id}", row)
        elif value is not None and value != field.default:
            yield f"{path}.{name}", value, field.default
            if isinstance(value, tuple):
                usual = field.default if isinstance(field.default, tuple) else ()
                pairs = zip_longest(value, usual[: len(value)])
                yield from ((f"{path}.{name}.{number}", each, default) for number, (each, default) in enumerate(pairs))
