"""What was done is written down by the sign-in that did it, and the app's role cannot write what it likes

Before, whoever had the app's role could append an entry of any kind, in any name. Now a name comes from the
sign-in whose key is told, which is itself on record; only the database's owner is taken at its word.
"""

from alembic import op

revision = "0021"
down_revision = "0020"

ADD = """
    CREATE OR REPLACE FUNCTION audit_add(did text, what text, row_id bigint, car bigint, old jsonb, new jsonb)
    RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
    -- Append one entry. The lock lasts to the end of the transaction: entries come one after the other.
    DECLARE
        said jsonb := coalesce(nullif(current_setting('cabrio.who', true), ''), '{}')::jsonb;
        by_key record;
        last text;
        made jsonb;
        entry_id bigint;
    BEGIN
        SELECT p.name, p.id AS person, p.team_id AS team, s.id AS sign_in INTO by_key
            FROM sign_in s JOIN person p ON p.id = s.person_id
            WHERE s.key_hash = encode(sha256(convert_to(said ->> 'key', 'UTF8')), 'hex');
        IF FOUND THEN
            said := said || to_jsonb(by_key);
        ELSIF NOT pg_has_role(session_user, current_user, 'MEMBER') THEN
            said := said - ARRAY['person', 'sign_in'] || '{"name": "nobody signed in"}';
        END IF;
        PERFORM pg_advisory_xact_lock(7221);
        SELECT hash INTO last FROM audit ORDER BY id DESC LIMIT 1;
        made := jsonb_strip_nulls(jsonb_build_object(
            'at', to_char(clock_timestamp() AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"'),
            'who', coalesce(said ->> 'name', session_user::text),
            'person', said -> 'person',
            'sign_in', said -> 'sign_in',
            'request', said -> 'request',
            'did', did, 'what', what, 'row', row_id, 'car', car));
        made := made || jsonb_build_object('before', old, 'after', new);
        INSERT INTO audit (team_id, car_id, person_id, entry, hash) VALUES (
            (said ->> 'team')::int, car, (said ->> 'person')::int, made,
            encode(sha256(convert_to(coalesce(last, '') || made::text, 'UTF8')), 'hex'))
        RETURNING id INTO entry_id;
        IF what <> 'sign_in' AND did <> 'exported' THEN
            PERFORM pg_notify('cabrio_written', jsonb_build_object(
                'at', entry_id, 'team', said -> 'team', 'car', car, 'sign_in', said -> 'sign_in')::text);
        END IF;
    END $$
"""
NOTE = """
    CREATE FUNCTION audit_note(did text, what text, row_id bigint, car bigint, about jsonb)
    RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
    -- What is no write of a row. Writes tell themselves, and only the owner takes a name out.
    BEGIN
        IF did IN ('added', 'changed', 'removed', 'erased')
           AND NOT pg_has_role(session_user, current_user, 'MEMBER') THEN
            RAISE EXCEPTION 'only the database itself writes that down' USING ERRCODE = '42501';
        END IF;
        PERFORM audit_add(did, what, row_id, car, NULL, about);
    END $$
"""
SIGNATURE = "audit_add(text, text, bigint, bigint, jsonb, jsonb)"


def upgrade() -> None:
    op.execute(ADD)
    op.execute(NOTE)
    op.execute(f"REVOKE EXECUTE ON FUNCTION {SIGNATURE} FROM PUBLIC")


def downgrade() -> None:
    # the function stays: told no key, it does for the owner what the one before did
    op.execute(f"GRANT EXECUTE ON FUNCTION {SIGNATURE} TO PUBLIC")
    op.execute("DROP FUNCTION audit_note(text, text, bigint, bigint, jsonb)")
