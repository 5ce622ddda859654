"""Where every number of a document came from, as the screen marks it."""

from collections.abc import Iterator

from pocketspark.core.models import Project
from pocketspark.core.models.model import Model, Row
from pocketspark.core.models.project import Basis


def known_bases(project: Project, build: int) -> dict[str, Basis]:
    """The basis of every place in the gadget and in this build that is not *default*."""
    chosen = project.builds[build]
    places = (*_places("gadget", project.gadget), *_places(f"builds.{chosen.id}", chosen))
    bases = {path: project.basis_of(path) for path in places}
    return {path: basis for path, basis in (bases | project.basis).items() if basis != "default"}


def _places(path: str, branch: Model) -> Iterator[str]:
    """Every field under this place that holds a value of its own."""
    for name, field in type(branch).model_fields.items():
        value = getattr(branch, name)
        if isinstance(value, Model):
            yield from _places(f"{path}.{name}", value)
        elif isinstance(value, tuple) and value and isinstance(value[0], Row):
            for row in value:
                yield from _places(f"{path}.{name}.{row.id}", row)
        elif value is not None and value != field.default:
            yield f"{path}.{name}"
            if isinstance(value, tuple):
                yield from (f"{path}.{name}.{number}" for number in range(len(value)))
