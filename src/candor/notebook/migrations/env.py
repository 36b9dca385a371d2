"""Run the migrations on the connection that the store hands over."""

from alembic import context

from candor.notebook.schema import metadata

context.configure(connection=context.config.attributes["connection"], target_metadata=metadata)
with context.begin_transaction():
    context.run_migrations()
