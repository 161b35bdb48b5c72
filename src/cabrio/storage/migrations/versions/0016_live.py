"""What is written is called out to whoever listens; an entry says from which sign-in it came"""

from alembic import op

from cabrio.storage.migrations.statements import sql

revision = "0016"
down_revision = "0015"

ADD = sql("0016_audit_add")
SIGN_IN = """
            'sign_in', said -> 'sign_in',"""
CALL = """
        IF what <> 'sign_in' AND did <> 'exported' THEN
            PERFORM pg_notify('cabrio_written', jsonb_build_object(
                'at', entry_id, 'team', said -> 'team', 'car', car, 'sign_in', said -> 'sign_in')::text);
        END IF;"""


def upgrade() -> None:
    op.execute(ADD.format(sign_in=SIGN_IN, call=CALL))


def downgrade() -> None:
    op.execute(ADD.format(sign_in="", call=""))
