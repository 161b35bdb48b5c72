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
