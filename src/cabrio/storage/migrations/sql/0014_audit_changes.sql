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
