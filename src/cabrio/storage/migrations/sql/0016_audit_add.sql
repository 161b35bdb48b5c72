CREATE OR REPLACE FUNCTION audit_add(did text, what text, row_id bigint, car bigint, old jsonb, new jsonb)
RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
-- Append one entry. The lock lasts to the end of the transaction: entries come one after the other.
DECLARE
    said jsonb := coalesce(nullif(current_setting('cabrio.who', true), ''), '{{}}')::jsonb;
    last text;
    made jsonb;
    entry_id bigint;
BEGIN
    PERFORM pg_advisory_xact_lock(7221);
    SELECT hash INTO last FROM audit ORDER BY id DESC LIMIT 1;
    made := jsonb_strip_nulls(jsonb_build_object(
        'at', to_char(clock_timestamp() AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"'),
        'who', coalesce(said ->> 'name', session_user::text),
        'person', said -> 'person',{sign_in}
        'request', said -> 'request',
        'did', did, 'what', what, 'row', row_id, 'car', car));
    made := made || jsonb_build_object('before', old, 'after', new);
    INSERT INTO audit (team_id, car_id, person_id, entry, hash) VALUES (
        (said ->> 'team')::int, car, (said ->> 'person')::int, made,
        encode(sha256(convert_to(coalesce(last, '') || made::text, 'UTF8')), 'hex'))
    RETURNING id INTO entry_id;{call}
END $$
