"""The maker's own parts, and photographs of the gadget."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    op.create_table(
        "part",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("kind", sa.String, nullable=False),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("body", sa.JSON, nullable=False),
        sa.Column("stock", sa.Integer, nullable=False),
        sa.Column("made_at", sa.DateTime, nullable=False),
    )
    op.create_index("part_by_kind", "part", ["kind", "name"])
    op.create_table(
        "photo",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("project_id", sa.Integer, sa.ForeignKey("project.id"), nullable=False),
        sa.Column("caption", sa.String, nullable=False),
        sa.Column("width", sa.Integer, nullable=False),
        sa.Column("height", sa.Integer, nullable=False),
        sa.Column("picture", sa.LargeBinary, nullable=False),
        sa.Column("thumbnail", sa.LargeBinary, nullable=False),
        sa.Column("marks", sa.JSON, nullable=False),
        sa.Column("made_at", sa.DateTime, nullable=False),
    )
    op.create_index("photo_by_project", "photo", ["project_id"])
