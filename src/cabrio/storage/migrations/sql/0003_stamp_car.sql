CREATE FUNCTION stamp_car() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    NEW.stamp := gen_random_uuid();
    RETURN NEW;
END $$
