"""Real meters, logs that are kept, and live runs that say who wrote them, and what happened on the way."""

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
    op.create_table(
        "log_file",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("project_id", sa.Integer, sa.ForeignKey("project.id"), nullable=False),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("size", sa.Integer, nullable=False),
        sa.Column("digest", sa.String, nullable=False),
        sa.Column("made_at", sa.DateTime, nullable=False),
    )
    op.create_index("log_file_by_project", "log_file", ["project_id"])
    op.create_table(
        "log_piece",
        sa.Column("log_id", sa.Integer, sa.ForeignKey("log_file.id"), primary_key=True),
        sa.Column("number", sa.Integer, primary_key=True),
        sa.Column("data", sa.LargeBinary, nullable=False),
    )
