"""What was done: every write, by whom, before and after, in a chain that nobody can edit"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

from cabrio.storage.migrations.statements import sql

revision = "0014"
down_revision = "0013"

WRITES = {
    "team": "",
    "person": "password_hash",
    "sign_in": "key_hash",
    "invitation": "key_hash",
    "car": "",
    "revision": "",
    "verdict": "",
    "reading": "",
    "event": "",
    "session": "",
    "run": "",
    "amendment": "",
    "picture": "data",
    "walk": "",
    "tick": "",
    "watched": "",
    "watched_done": "",
}
"""Tables whose every write is kept, and the column of each that is only told to have changed."""
NO_NEWS = "{seen_at,stamp,machine,browser}"
"""Columns that tell only when something was last used or changed, or from where: that can be forgotten."""

FUNCTIONS = (
    sql("0014_audit_changes"),
    sql("0014_audit_add"),
    sql("0014_audit_write"),
    sql("0014_refuse_audit_edit"),
)


def upgrade() -> None:
    op.create_table(
        "audit",
        sa.Column("id", sa.BigInteger(), sa.Identity(always=True), nullable=False),
        sa.Column("team_id", sa.Integer(), nullable=True),
        sa.Column("car_id", sa.Integer(), nullable=True),
        sa.Column("person_id", sa.Integer(), nullable=True),
        sa.Column("entry", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("hash", sa.String(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_audit")),
    )
    op.create_index("ix_audit_team_id_id", "audit", ["team_id", "id"])
    for function in FUNCTIONS:
        op.execute(function)
    op.execute(
        "CREATE TRIGGER audit_is_kept BEFORE UPDATE OR DELETE ON audit "
        "FOR EACH ROW EXECUTE FUNCTION refuse_audit_edit()"
    )
    op.execute(
        "CREATE TRIGGER audit_is_not_emptied BEFORE TRUNCATE ON audit "
        "FOR EACH STATEMENT EXECUTE FUNCTION refuse_audit_edit()"
    )
    op.execute(STAMP.format(NOT_IMPORTED))
    for table, hidden in WRITES.items():
        _watch(table, "INSERT OR UPDATE OR DELETE", hidden)
    # a draft is its author's own paper; what is booked or parked is the team's
    _watch("slip", "INSERT", "", "_new", "NEW.state <> 'draft'")
    _watch("slip", "UPDATE", "", "_kept", "NEW.state <> 'draft' OR OLD.state <> 'draft'")
    _watch("slip", "DELETE", "", "_gone", "OLD.state <> 'draft'")


STAMP = """
    CREATE OR REPLACE FUNCTION stamp_record() RETURNS trigger LANGUAGE plpgsql AS $$
    BEGIN
        {}UPDATE car SET stamp = gen_random_uuid() WHERE id = coalesce(NEW.car_id, OLD.car_id);
        RETURN NULL;
    END $$
"""
NOT_IMPORTED = (
    "IF TG_OP = 'INSERT' AND current_setting('cabrio.import', true) = NEW.car_id::text THEN "
    "RETURN NULL; END IF; "
)
"""Nobody has seen a car yet that is being brought in: thousands of rows need not stamp it one by one."""


def _watch(table: str, on: str, hidden: str, name: str = "", when: str = "") -> None:
    condition = f"WHEN ({when}) " if when else ""
    op.execute(
        f"CREATE CONSTRAINT TRIGGER {table}_is_audited{name} AFTER {on} ON {table} "
        f"DEFERRABLE INITIALLY DEFERRED FOR EACH ROW {condition}"
        f"EXECUTE FUNCTION audit_write('{hidden}', '{NO_NEWS}')"
    )


def downgrade() -> None:
    op.execute(STAMP.format(""))
    for table in WRITES:
        op.execute(f"DROP TRIGGER {table}_is_audited ON {table}")
    for name in ("new", "kept", "gone"):
        op.execute(f"DROP TRIGGER slip_is_audited_{name} ON slip")
    op.drop_table("audit")
    for function in (
        "refuse_audit_edit()",
        "audit_write()",
        "audit_add(text, text, bigint, bigint, jsonb, jsonb)",
        "audit_changes(jsonb, jsonb, text)",
    ):
        op.execute(f"DROP FUNCTION {function}")
