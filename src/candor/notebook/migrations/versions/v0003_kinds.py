"""The shelf is folded from kinds, with an index; the flag that was decided at writing goes, and out of the digests too."""

import sqlalchemy as sa
from alembic import op

from candor.notebook.migrations.versions.v0002_chained import chained as chained_until_now

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Chain anew without the flag. An entry that was changed before keeps its link, which still does not fit: it stays seen."""
    from candor.notebook.storage.chain import chained

    connection = op.get_bind()
    asked = "select number, id, job, kind, at, who, shelf, body, chain from entries order by job, number"
    job, before, after, links = None, "", "", []
    for number, name, of, kind, at, who, shelf, body, link in connection.execute(sa.text(asked)).all():
        if of != job:
            job, before, after = of, "", ""
        sound = link == chained_until_now(before, name, of, kind, at, who, int(shelf), body)
        before = link
        after = chained(after, name, of, kind, at, who, body) if sound else link
        links.append({"number": number, "chain": after})
    if links:
        connection.execute(sa.text("update entries set chain = :chain where number = :number"), links)
    op.drop_index("entries_on_shelf", "entries")
    op.drop_column("entries", "shelf")
    op.create_index("entries_of_kind", "entries", ["kind"], sqlite_where=sa.text("kind <> 'reading'"))
