"""A conversion's row, where there is a conversion: the number of one that was erased stays taken, and leads nowhere."""

from sqlalchemy.orm import Session

from pocketspark.core.message import say
from pocketspark.store.nothing_there import NothingThere
from pocketspark.store.tables import ProjectRow


def row_of(session: Session, project_id: int) -> ProjectRow:
    """Raises NothingThere."""
    row = session.get(ProjectRow, project_id)
    if row is None:
        raise NothingThere(say("there is no project {project_id}", project_id=project_id))
    if row.head is None:
        raise NothingThere(say("this conversion was erased"))
    return row
