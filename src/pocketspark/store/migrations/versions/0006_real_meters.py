"""Real meters, and live runs that say whether they were simulated, what happened on the way, and who wrote them."""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"


def upgrade() -> None:
    # Every run before was of the simulated bench.
    op.add_column("live_run", sa.Column("simulated", sa.Boolean, nullable=False, server_default=sa.true()))
    op.add_column("live_run", sa.Column("remarks", sa.JSON, nullable=False, server_default="[]"))
    op.add_column("live_run", sa.Column("connections", sa.JSON, nullable=False, server_default="[]"))
    op.create_table(
        "connection",
        sa.Column("name", sa.String, primary_key=True),
        sa.Column("body", sa.JSON, nullable=False),
        sa.Column("set_at", sa.DateTime, nullable=False),
    )
