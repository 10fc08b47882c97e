"""Alembic's environment: runs on the connection that Database.migrate hands over."""

from alembic import context

from uphill_spark.store.tables import Base

context.configure(connection=context.config.attributes["connection"], target_metadata=Base.metadata)
with context.begin_transaction():
    context.run_migrations()
