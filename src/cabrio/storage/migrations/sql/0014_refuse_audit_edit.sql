CREATE FUNCTION refuse_audit_edit() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'what was done is never edited';
END $$
