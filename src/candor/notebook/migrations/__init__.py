"""Alembic's scripts: how an older notebook is brought to the newest shape."""
