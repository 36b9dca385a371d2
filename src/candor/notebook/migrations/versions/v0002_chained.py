"""Every entry carries a digest chained from the entry before it in its job."""

import hashlib

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def chained(before: str, *fields: object) -> str:
    """Return the digest of an entry as it was in this form: id, job, kind, at, who, shelf as 0 or 1, body."""
    digest = hashlib.sha256(before.encode())
    for field in fields:
        text = str(int(field) if isinstance(field, bool) else field).encode("utf-8", "surrogatepass")
        digest.update(b"%d:" % len(text))
        digest.update(text)
    return digest.hexdigest()


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
