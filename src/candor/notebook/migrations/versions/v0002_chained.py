"""Every entry carries a digest chained from the entry before it in its job."""

import sqlalchemy as sa
from alembic import op

from candor.notebook.chain import chained

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Add the column and chain what is there: from today on a change of it is seen."""
    op.add_column("entries", sa.Column("chain", sa.String(64), nullable=False, server_default=""))
    connection = op.get_bind()
    asked = "select number, id, job, kind, at, who, shelf, body from entries order by job, number"
    job, chain, links = None, "", []
    for number, *fields in connection.execute(sa.text(asked)).all():
        if fields[1] != job:
            job, chain = fields[1], ""
        chain = chained(chain, *fields)
        links.append({"number": number, "chain": chain})
    if links:
        connection.execute(sa.text("update entries set chain = :chain where number = :number"), links)
