"""An order of work walked through on a car, ticked step by step"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0007"
down_revision = "0006"


def upgrade() -> None:
    moment = postgresql.TIMESTAMP(timezone=True)
    op.create_table(
        "walk",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("car_id", sa.Integer(), nullable=False),
        sa.Column("procedure", sa.String(), nullable=False),
        sa.Column("started_by", sa.String(), nullable=False),
        sa.Column("started_at", moment, nullable=False),
        sa.Column("ended_at", moment, nullable=True),
        sa.ForeignKeyConstraint(["car_id"], ["car.id"], name=op.f("fk_walk_car_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_walk")),
    )
    # one at a time of an order of work, whoever starts it
    op.create_index(
        "uq_walk_open",
        "walk",
        ["car_id", "procedure"],
        unique=True,
        postgresql_where=sa.text("ended_at IS NULL"),
    )
    op.create_table(
        "tick",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("walk_id", sa.Integer(), nullable=False),
        sa.Column("step", sa.String(), nullable=False),
        sa.Column("by", sa.String(), nullable=False),
        sa.Column("at", moment, nullable=False),
        sa.Column("undone_by", sa.String(), nullable=True),
        sa.Column("undone_at", moment, nullable=True),
        sa.ForeignKeyConstraint(["walk_id"], ["walk.id"], name=op.f("fk_tick_walk_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_tick")),
    )
    op.create_index(
        "uq_tick_standing",
        "tick",
        ["walk_id", "step"],
        unique=True,
        postgresql_where=sa.text("undone_at IS NULL"),
    )


def downgrade() -> None:
    op.drop_table("tick")
    op.drop_table("walk")
