"""Runs migrations on the connection that `store.database` hands over."""

from alembic import context

from pocketspark.store.tables import Table

context.configure(
    connection=context.config.attributes["connection"], target_metadata=Table.metadata, render_as_batch=True
)
with context.begin_transaction():
    context.run_migrations()
