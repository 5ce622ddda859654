"""Projects and their revisions."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None


def upgrade() -> None:
    op.create_table(
        "project",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("head", sa.Integer, sa.ForeignKey("revision.id", use_alter=True)),
        sa.Column("made_at", sa.DateTime, nullable=False),
        sa.Column("put_away_at", sa.DateTime),
    )
    op.create_table(
        "revision",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("project_id", sa.Integer, sa.ForeignKey("project.id"), nullable=False),
        sa.Column("parent", sa.Integer, sa.ForeignKey("revision.id")),
        sa.Column("made_at", sa.DateTime, nullable=False),
        sa.Column("body", sa.JSON, nullable=False),
    )
    op.create_index("revision_by_parent", "revision", ["project_id", "parent"])


def downgrade() -> None:
    op.drop_table("revision")
    op.drop_table("project")
