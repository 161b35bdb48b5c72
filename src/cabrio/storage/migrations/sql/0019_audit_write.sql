CREATE OR REPLACE FUNCTION audit_write() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
-- At the end of the transaction: what a row was and is. Arguments: a column that is not told, and
-- columns that are no news.
DECLARE
    o jsonb;
    n jsonb;
    one jsonb;
    was jsonb;
    now_is jsonb;
    car bigint;
BEGIN
    -- what comes with a car from a file is one entry: told so, and the car made by this very transaction
    IF TG_OP = 'INSERT' AND TG_TABLE_NAME <> 'car' AND current_setting('cabrio.import', true) <> '' THEN
        PERFORM FROM car WHERE id = current_setting('cabrio.import', true)::bigint
            AND imported_by IS NOT NULL AND xmin::text = (txid_current() % (2::bigint ^ 32)::bigint)::text;
        IF FOUND THEN RETURN NULL; END IF;
    END IF;
    o := CASE WHEN TG_OP = 'INSERT' THEN NULL ELSE to_jsonb(OLD) END;
    n := CASE WHEN TG_OP = 'DELETE' THEN NULL ELSE to_jsonb(NEW) END;
    one := coalesce(n, o);
    car := CASE WHEN TG_TABLE_NAME = 'car' THEN (one ->> 'id')::bigint
                ELSE (one ->> 'car_id')::bigint END;
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
