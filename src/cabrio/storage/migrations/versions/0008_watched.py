"""What is watched on a car: open issues, parts off, torques, class limits, service"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0008"
down_revision = "0007"


def upgrade() -> None:
    moment = postgresql.TIMESTAMP(timezone=True)
    op.create_table(
        "watched",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("car_id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("words", sa.String(), nullable=False),
        sa.Column("data", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("opened_by", sa.String(), nullable=False),
        sa.Column("opened_at", moment, nullable=False),
        sa.Column("closed_by", sa.String(), nullable=True),
        sa.Column("closed_at", moment, nullable=True),
        sa.Column("closed_words", sa.String(), nullable=False),
        sa.ForeignKeyConstraint(["car_id"], ["car.id"], name=op.f("fk_watched_car_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_watched")),
    )
    op.create_index(op.f("ix_watched_car_id"), "watched", ["car_id"])
    op.create_table(
        "watched_done",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("watched_id", sa.Integer(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("by", sa.String(), nullable=False),
        sa.Column("at", moment, nullable=False),
        sa.ForeignKeyConstraint(
            ["watched_id"], ["watched.id"], name=op.f("fk_watched_done_watched_id")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_watched_done")),
    )
    op.create_index(op.f("ix_watched_done_watched_id"), "watched_done", ["watched_id"])


def downgrade() -> None:
    op.drop_table("watched_done")
    op.drop_table("watched")
