"""A run on a car that was not ready: why it was let out all the same, and what stood against it"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0005"
down_revision = "0004"


def upgrade() -> None:
    kind = postgresql.JSONB(astext_type=sa.Text())
    op.add_column("run", sa.Column("released_why", sa.String(), nullable=False, server_default=""))
    op.add_column("run", sa.Column("not_ready", kind, nullable=False, server_default="[]"))


def downgrade() -> None:
    op.drop_column("run", "not_ready")
    op.drop_column("run", "released_why")
