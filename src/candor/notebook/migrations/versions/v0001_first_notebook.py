"""The first notebook: entries, packs, places."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Make the three tables; written out, so that later changes of the schema leave this step alone."""
    op.create_table(
        "entries",
        sa.Column("number", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column("id", sa.String(32), nullable=False, unique=True),
        sa.Column("job", sa.String(32), nullable=False),
        sa.Column("kind", sa.String(32), nullable=False),
        sa.Column("at", sa.String(32), nullable=False),
        sa.Column("who", sa.String(80), nullable=False),
        sa.Column("shelf", sa.Boolean, nullable=False),
        sa.Column("body", sa.Text, nullable=False),
        sqlite_autoincrement=True,
    )
    op.create_index("entries_of_job", "entries", ["job", "number"])
    on_shelf = sa.text("shelf")
    op.create_index("entries_on_shelf", "entries", ["number"], sqlite_where=on_shelf, postgresql_where=on_shelf)
    op.create_table(
        "packs",
        sa.Column("digest", sa.String(64), primary_key=True),
        sa.Column("id", sa.String(80), nullable=False),
        sa.Column("edition", sa.String(80), nullable=False),
        sa.Column("body", sa.Text, nullable=False),
    )
    op.create_table(
        "places",
        sa.Column("job", sa.String(32), primary_key=True),
        sa.Column("stop", sa.String(20), nullable=False),
        sa.Column("step", sa.String(200), nullable=False),
        sa.Column("at", sa.String(32), nullable=False),
    )
