"""How long a lap of an event's track is: what service by distance counts by"""

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"


def upgrade() -> None:
    op.add_column("event", sa.Column("lap_length", sa.Float(), nullable=True))
    op.create_check_constraint(op.f("ck_event_lap_above_zero"), "event", "lap_length > 0")


def downgrade() -> None:
    op.drop_constraint(op.f("ck_event_lap_above_zero"), "event", type_="check")
    op.drop_column("event", "lap_length")
