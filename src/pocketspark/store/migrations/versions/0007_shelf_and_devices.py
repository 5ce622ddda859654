"""A check sum and a device for each saved state; a shelf that is searched and put in order by the database."""

from hashlib import sha256

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"


def upgrade() -> None:
    op.add_column("revision", sa.Column("digest", sa.String))
    op.add_column("revision", sa.Column("device", sa.Integer, nullable=False, server_default="0"))
    op.add_column("revision", sa.Column("undoes", sa.Integer))
    op.add_column("device", sa.Column("reads_only", sa.Boolean, nullable=False, server_default=sa.false()))
    op.add_column("project", sa.Column("words", sa.String, nullable=False, server_default=""))
    op.add_column("project", sa.Column("stage", sa.String, nullable=False, server_default=""))
    op.add_column("project", sa.Column("changed_at", sa.DateTime))
    op.execute(
        "UPDATE project SET words = lower(name), rules = NULL,"
        " changed_at = (SELECT made_at FROM revision WHERE revision.id = project.head)"
    )
    found_by = ["archived_at", "changed_at", "id", "stage", "head", "name", "words"]
    op.create_index("project_on_shelf", "project", found_by)
    connection = op.get_bind()
    # One at a time: the texts of a long shelf are hundreds of megabytes.
    for number in list(connection.scalars(sa.text("SELECT id FROM revision"))):
        body = connection.scalar(sa.text("SELECT CAST(body AS BLOB) FROM revision WHERE id = :id"), {"id": number})
        values = {"id": number, "digest": sha256(body).hexdigest()}
        connection.execute(sa.text("UPDATE revision SET digest = :digest WHERE id = :id"), values)
