"""What was done is written down by the sign-in that did it, and the app's role cannot write what it likes

Before, whoever had the app's role could append an entry of any kind, in any name. Now a name comes from the
sign-in whose key is told, which is itself on record; only the database's owner is taken at its word.
"""

from alembic import op

from cabrio.storage.migrations.statements import sql

revision = "0021"
down_revision = "0020"

ADD = sql("0021_audit_add")
NOTE = sql("0021_audit_note")
SIGNATURE = "audit_add(text, text, bigint, bigint, jsonb, jsonb)"


def upgrade() -> None:
    op.execute(ADD)
    op.execute(NOTE)
    op.execute(f"REVOKE EXECUTE ON FUNCTION {SIGNATURE} FROM PUBLIC")


def downgrade() -> None:
    # the function stays: told no key, it does for the owner what the one before did
    op.execute(f"GRANT EXECUTE ON FUNCTION {SIGNATURE} TO PUBLIC")
    op.execute("DROP FUNCTION audit_note(text, text, bigint, bigint, jsonb)")
