"""Who brought a car in by a file, when, and up to which revision its record is as the file tells"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0010"
down_revision = "0009"


def upgrade() -> None:
    op.add_column("car", sa.Column("imported_by", sa.String(), nullable=True))
    op.add_column(
        "car", sa.Column("imported_at", postgresql.TIMESTAMP(timezone=True), nullable=True)
    )
    op.add_column("car", sa.Column("imported_revision", sa.Integer(), nullable=True))


def downgrade() -> None:
    for name in ("imported_by", "imported_at", "imported_revision"):
        op.drop_column("car", name)
