"""Sessions and runs may be set aside; every correction of the logbook is kept, and cannot be edited"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

from cabrio.storage.migrations.statements import sql

revision = "0011"
down_revision = "0010"


def upgrade() -> None:
    moment = postgresql.TIMESTAMP(timezone=True)
    for table in ("session", "run"):
        op.add_column(table, sa.Column("aside_at", moment, nullable=True))
    document = postgresql.JSONB(astext_type=sa.Text())
    op.create_table(
        "amendment",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("team_id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("row_id", sa.Integer(), nullable=False),
        sa.Column("before", document, nullable=False),
        sa.Column("after", document, nullable=False),
        sa.Column("why", sa.String(), nullable=False),
        sa.Column("by", sa.String(), nullable=False),
        sa.Column("at", moment, nullable=False),
        sa.ForeignKeyConstraint(["team_id"], ["team.id"], name=op.f("fk_amendment_team_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_amendment")),
    )
    op.create_index("ix_amendment_kind_row_id", "amendment", ["kind", "row_id"])
    op.execute(sql("0011_refuse_amendment_edit"))
    op.execute(
        """
        CREATE TRIGGER amendment_is_kept BEFORE UPDATE OR DELETE ON amendment
        FOR EACH ROW EXECUTE FUNCTION refuse_amendment_edit()
        """
    )


def downgrade() -> None:
    op.drop_table("amendment")
    op.execute("DROP FUNCTION refuse_amendment_edit()")
    for table in ("session", "run"):
        op.drop_column(table, "aside_at")
