CREATE FUNCTION "say_revision"() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	PERFORM pg_notify('porch_lamp_revision', NEW."number"::text);
	RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER "revision_said" AFTER INSERT OR UPDATE ON "revision" FOR EACH ROW EXECUTE FUNCTION "say_revision"();
