"""Columns of meters' logs as the maker put them right, and what instruments write while they are read."""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"


def upgrade() -> None:
    op.create_table(
        "meter",
        sa.Column("header", sa.String, primary_key=True),
        sa.Column("places", sa.JSON, nullable=False),
        sa.Column("set_at", sa.DateTime, nullable=False),
    )
    op.create_table(
        "live_run",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("limits", sa.JSON, nullable=True),
        sa.Column("begun_at", sa.DateTime, nullable=False),
        sa.Column("ended", sa.Boolean, nullable=False),
    )
    op.create_table(
        "live_rows",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("run_id", sa.Integer, sa.ForeignKey("live_run.id"), nullable=False),
        sa.Column("rows", sa.JSON, nullable=False),
    )
    op.create_index("live_rows_by_run", "live_rows", ["run_id"])
