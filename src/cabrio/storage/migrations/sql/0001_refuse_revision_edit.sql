CREATE FUNCTION refuse_revision_edit() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'a booked revision is never changed' USING ERRCODE = 'restrict_violation';
END $$
