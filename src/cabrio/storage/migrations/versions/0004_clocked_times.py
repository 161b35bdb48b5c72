"""What a clock wrote of a run: times and speeds by name"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0004"
down_revision = "0003"


def upgrade() -> None:
    kind = postgresql.JSONB(astext_type=sa.Text())
    op.add_column("run", sa.Column("times", kind, nullable=False, server_default="{}"))


def downgrade() -> None:
    op.drop_column("run", "times")
