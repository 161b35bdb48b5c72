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
