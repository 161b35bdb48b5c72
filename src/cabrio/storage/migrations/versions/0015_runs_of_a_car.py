"""A run names its car, and both are found by time: a car of years has ten thousand sessions"""

import sqlalchemy as sa
from alembic import op

revision = "0015"
down_revision = "0014"


def upgrade() -> None:
    op.add_column("run", sa.Column("car_id", sa.Integer(), nullable=True))
    op.execute(
        "UPDATE run SET car_id = session.car_id FROM session WHERE run.session_id = session.id"
    )
    op.execute(
        "SET CONSTRAINTS ALL IMMEDIATE"
    )  # what was just written down, before the table changes
    op.alter_column("run", "car_id", nullable=False)
    op.create_foreign_key(op.f("fk_run_car_id"), "run", "car", ["car_id"], ["id"])
    op.create_index("ix_run_car_id_at", "run", ["car_id", "at"])
    op.create_index("ix_session_car_id_starts_at", "session", ["car_id", "starts_at"])
    op.drop_index(op.f("ix_session_car_id"), "session")
    op.create_index("ix_revision_car_id_booked_at", "revision", ["car_id", "booked_at"])
    op.drop_index(op.f("ix_revision_car_id"), "revision")


def downgrade() -> None:
    op.create_index(op.f("ix_revision_car_id"), "revision", ["car_id"])
    op.drop_index("ix_revision_car_id_booked_at", "revision")
    op.create_index(op.f("ix_session_car_id"), "session", ["car_id"])
    op.drop_index("ix_session_car_id_starts_at", "session")
    op.drop_index("ix_run_car_id_at", "run")
    op.drop_column("run", "car_id")
