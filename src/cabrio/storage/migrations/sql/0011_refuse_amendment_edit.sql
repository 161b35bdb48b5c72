CREATE FUNCTION refuse_amendment_edit() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'a correction of the record is never edited';
END $$
