"""What was done: every write, by whom, before and after, in a chain that nobody can edit"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

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
    """
    CREATE FUNCTION audit_changes(o jsonb, n jsonb, here text)
    RETURNS TABLE (path text, before jsonb, after jsonb) LANGUAGE plpgsql IMMUTABLE AS $$
    -- What differs between two documents, down to what is no document itself.
    DECLARE k text;
    BEGIN
        IF o IS NOT DISTINCT FROM n THEN RETURN; END IF;
        IF jsonb_typeof(o) = 'object' AND jsonb_typeof(n) = 'object' THEN
            FOR k IN SELECT jsonb_object_keys(o) UNION SELECT jsonb_object_keys(n) LOOP
                RETURN QUERY SELECT * FROM audit_changes(
                    o -> k, n -> k, CASE WHEN here = '' THEN k ELSE here || '.' || k END);
            END LOOP;
        ELSE
            path := here; before := o; after := n;
            RETURN NEXT;
        END IF;
    END $$
    """,
    """
    CREATE FUNCTION audit_add(did text, what text, row_id bigint, car bigint, old jsonb, new jsonb)
    RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
    -- Append one entry. The lock lasts to the end of the transaction: entries come one after the other.
    DECLARE
        said jsonb := coalesce(nullif(current_setting('cabrio.who', true), ''), '{}')::jsonb;
        last text;
        made jsonb;
    BEGIN
        PERFORM pg_advisory_xact_lock(7221);
        SELECT hash INTO last FROM audit ORDER BY id DESC LIMIT 1;
        made := jsonb_strip_nulls(jsonb_build_object(
            'at', to_char(clock_timestamp() AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"'),
            'who', coalesce(said ->> 'name', session_user::text),
            'person', said -> 'person',
            'request', said -> 'request',
            'did', did, 'what', what, 'row', row_id, 'car', car));
        made := made || jsonb_build_object('before', old, 'after', new);
        INSERT INTO audit (team_id, car_id, person_id, entry, hash) VALUES (
            (said ->> 'team')::int, car, (said ->> 'person')::int, made,
            encode(sha256(convert_to(coalesce(last, '') || made::text, 'UTF8')), 'hex'));
    END $$
    """,
    """
    CREATE FUNCTION audit_write() RETURNS trigger
    LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
    -- At the end of the transaction: what a row was and is. Arguments: a column that is not told, and
    -- columns that are no news.
    DECLARE
        o jsonb := CASE WHEN TG_OP = 'INSERT' THEN NULL ELSE to_jsonb(OLD) END;
        n jsonb := CASE WHEN TG_OP = 'DELETE' THEN NULL ELSE to_jsonb(NEW) END;
        one jsonb := coalesce(n, o);
        was jsonb;
        now_is jsonb;
        car bigint := CASE WHEN TG_TABLE_NAME = 'car' THEN (one ->> 'id')::bigint
                           ELSE (one ->> 'car_id')::bigint END;
    BEGIN
        -- what comes with a car from a file is one entry: told so, and the car made by this very transaction
        IF TG_OP = 'INSERT' AND TG_TABLE_NAME <> 'car' AND current_setting('cabrio.import', true) <> '' THEN
            PERFORM FROM car WHERE id = current_setting('cabrio.import', true)::bigint
                AND imported_by IS NOT NULL AND xmin::text = (txid_current() % (2::bigint ^ 32)::bigint)::text;
            IF FOUND THEN RETURN NULL; END IF;
        END IF;
        o := o - TG_ARGV[1]::text[];
        n := n - TG_ARGV[1]::text[];
        IF TG_ARGV[0] <> '' THEN
            IF o ->> TG_ARGV[0] IS DISTINCT FROM n ->> TG_ARGV[0] AND o IS NOT NULL AND n IS NOT NULL THEN
                o := o || jsonb_build_object(TG_ARGV[0], 'not told');
                n := n || jsonb_build_object(TG_ARGV[0], 'changed');
            ELSE
                o := o - TG_ARGV[0];
                n := n - TG_ARGV[0];
            END IF;
        END IF;
        IF TG_OP = 'UPDATE' THEN
            SELECT jsonb_object_agg(path, before), jsonb_object_agg(path, after) INTO was, now_is
            FROM audit_changes(o, n, '');
            IF was IS NULL THEN RETURN NULL; END IF;
        ELSE
            was := jsonb_strip_nulls(o);
            now_is := jsonb_strip_nulls(n);
        END IF;
        PERFORM audit_add(
            CASE TG_OP WHEN 'INSERT' THEN 'added' WHEN 'UPDATE' THEN 'changed' ELSE 'removed' END,
            TG_TABLE_NAME, (one ->> 'id')::bigint, car, was, now_is);
        RETURN NULL;
    END $$
    """,
    """
    CREATE FUNCTION refuse_audit_edit() RETURNS trigger LANGUAGE plpgsql AS $$
    BEGIN
        RAISE EXCEPTION 'what was done is never edited';
    END $$
    """,
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
