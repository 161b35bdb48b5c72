"""Sign-ins that can be ended, invitations, owners, and tries counted per address and machine"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0013"
down_revision = "0012"


def upgrade() -> None:
    moment = postgresql.TIMESTAMP(timezone=True)
    op.add_column(
        "person", sa.Column("owner", sa.Boolean(), nullable=False, server_default=sa.false())
    )
    op.add_column("person", sa.Column("disabled_at", moment, nullable=True))
    # somebody has to be able to invite: the first engineer of each team
    op.execute(
        "UPDATE person SET owner = true WHERE id IN "
        "(SELECT min(id) FROM person WHERE role = 'engineer' GROUP BY team_id)"
    )
    op.create_table(
        "sign_in",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("key_hash", sa.String(), nullable=False),
        sa.Column("machine", sa.String(), nullable=False),
        sa.Column("browser", sa.String(), nullable=False),
        sa.Column("began_at", moment, nullable=False),
        sa.Column("seen_at", moment, nullable=False),
        sa.Column("ended_at", moment, nullable=True),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_sign_in_person_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_sign_in")),
        sa.UniqueConstraint("key_hash", name=op.f("uq_sign_in_key_hash")),
    )
    op.create_index(op.f("ix_sign_in_person_id"), "sign_in", ["person_id"])
    op.create_table(
        "invitation",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("key_hash", sa.String(), nullable=False),
        sa.Column("by", sa.String(), nullable=False),
        sa.Column("at", moment, nullable=False),
        sa.Column("used_at", moment, nullable=True),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_invitation_person_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_invitation")),
        sa.UniqueConstraint("key_hash", name=op.f("uq_invitation_key_hash")),
    )
    op.create_index(op.f("ix_invitation_person_id"), "invitation", ["person_id"])
    op.create_table(
        "sign_in_tries",
        sa.Column("of", sa.String(), nullable=False),
        sa.Column("began_at", moment, nullable=False),
        sa.Column("count", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("of", name=op.f("pk_sign_in_tries")),
    )
    op.drop_table("sign_in_attempt")


def downgrade() -> None:
    moment = postgresql.TIMESTAMP(timezone=True)
    op.create_table(
        "sign_in_attempt",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("email", sa.String(), nullable=False),
        sa.Column("at", moment, nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_sign_in_attempt")),
    )
    op.create_index("ix_sign_in_attempt_email_at", "sign_in_attempt", ["email", "at"])
    for table in ("sign_in_tries", "invitation", "sign_in"):
        op.drop_table(table)
    op.drop_column("person", "disabled_at")
    op.drop_column("person", "owner")
