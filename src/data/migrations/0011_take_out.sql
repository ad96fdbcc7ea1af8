CREATE TABLE "import_undo" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"import_id" text NOT NULL,
	"batch" bigint NOT NULL,
	"table_name" text NOT NULL,
	"before" jsonb,
	"after" jsonb
);
--> statement-breakpoint
CREATE INDEX "import_undo_batch" ON "import_undo" USING btree ("import_id","batch");
--> statement-breakpoint
CREATE SEQUENCE "import_undo_batches";
--> statement-breakpoint
CREATE FUNCTION "keep_for_undo"() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
	the_import text := current_setting('porch_lamp.import', true);
	the_batch bigint;
BEGIN
	-- What a foreign key carries along comes back with the row it hangs on.
	IF coalesce(the_import, '') = '' OR pg_trigger_depth() > 1 THEN RETURN NULL; END IF;
	the_batch := nextval('import_undo_batches');
	IF TG_OP = 'INSERT' THEN
		INSERT INTO import_undo (import_id, batch, table_name, after) SELECT the_import, the_batch, TG_TABLE_NAME, to_jsonb(n) FROM new_rows n;
	ELSIF TG_OP = 'DELETE' THEN
		INSERT INTO import_undo (import_id, batch, table_name, before) SELECT the_import, the_batch, TG_TABLE_NAME, to_jsonb(o) FROM old_rows o;
	ELSE
		-- Both are in the order in which the rows were updated.
		INSERT INTO import_undo (import_id, batch, table_name, before, after)
		SELECT the_import, the_batch, TG_TABLE_NAME, o.r, n.r
		FROM (SELECT row_number() OVER () i, to_jsonb(t) r FROM old_rows t) o JOIN (SELECT row_number() OVER () i, to_jsonb(t) r FROM new_rows t) n USING (i)
		WHERE o.r <> n.r;
	END IF;
	RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "people" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "people" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "people" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "accounts" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "accounts" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "accounts" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "stages" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "stages" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "stages" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "contacts" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "contacts" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "contacts" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "deals" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "deals" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "deals" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "deal_versions" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "deal_versions" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "deal_versions" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "deal_contacts" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "deal_contacts" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "deal_contacts" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "activities" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "activities" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "activities" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "questions" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "questions" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "questions" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "question_editions" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "question_editions" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "question_editions" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "answers" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "answers" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "answers" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "notes" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "notes" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "notes" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "close_plan_steps" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "close_plan_steps" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "close_plan_steps" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "quotes" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "quotes" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "quotes" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "deal_lines" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "deal_lines" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "deal_lines" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "orders" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "orders" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "orders" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "tasks" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "tasks" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "tasks" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "targets" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "targets" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "targets" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "holidays" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "holidays" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "holidays" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "rates" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "rates" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "rates" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "marks" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "marks" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "marks" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "teams" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "teams" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "teams" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "organisation" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "organisation" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "organisation" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "import_extras" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "import_extras" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "import_extras" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
