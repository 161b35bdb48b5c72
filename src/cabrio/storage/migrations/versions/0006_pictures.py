"""Photos and clips of a run"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0006"
down_revision = "0005"


def upgrade() -> None:
    moment = postgresql.TIMESTAMP(timezone=True)
    op.create_table(
        "picture",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("digest", sa.String(), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.Column("by", sa.String(), nullable=False),
        sa.Column("at", moment, nullable=False),
        sa.Column("removed_by", sa.String(), nullable=True),
        sa.Column("removed_at", moment, nullable=True),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_picture_run_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_picture")),
    )
    op.create_index(op.f("ix_picture_run_id"), "picture", ["run_id"])


def downgrade() -> None:
    op.drop_table("picture")
