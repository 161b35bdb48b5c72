CREATE FUNCTION stamp_record() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    UPDATE car SET stamp = gen_random_uuid() WHERE id = coalesce(NEW.car_id, OLD.car_id);
    RETURN NULL;
END $$
