"""A run tells whether the floor was looked at, and whether it had touched"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0018"
down_revision = "0017"


def upgrade() -> None:
    op.add_column(
        "run",
        sa.Column(
            "floor", postgresql.JSONB(), nullable=False, server_default=sa.text("'{}'::jsonb")
        ),
    )


def downgrade() -> None:
    op.drop_column("run", "floor")
