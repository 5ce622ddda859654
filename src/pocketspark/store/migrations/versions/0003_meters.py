"""Columns of meters' logs as the maker put them right."""

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
