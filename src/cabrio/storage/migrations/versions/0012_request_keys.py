"""Keys of requests that were done, with their answers: sent twice, they are done once"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0012"
down_revision = "0011"


def upgrade() -> None:
    op.create_table(
        "request_key",
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("digest", sa.String(), nullable=False),
        sa.Column("answer", sa.String(), nullable=True),
        sa.Column("at", postgresql.TIMESTAMP(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(
            ["person_id"], ["person.id"], name=op.f("fk_request_key_person_id")
        ),
        sa.PrimaryKeyConstraint("person_id", "key", name=op.f("pk_request_key")),
    )
    op.create_index(op.f("ix_request_key_at"), "request_key", ["at"])


def downgrade() -> None:
    op.drop_table("request_key")
