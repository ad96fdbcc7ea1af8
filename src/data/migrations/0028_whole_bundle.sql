ALTER TABLE "webhooks" ALTER COLUMN "secret" SET DEFAULT '';--> statement-breakpoint
ALTER TABLE "webhooks" ALTER COLUMN "on" SET DEFAULT false;--> statement-breakpoint
ALTER TABLE "marks" ADD COLUMN "newest" bigint;--> statement-breakpoint
ALTER TABLE "former_facts" ADD COLUMN "uid" text DEFAULT gen_random_uuid()::text NOT NULL;--> statement-breakpoint
ALTER TABLE "round_calls" ADD COLUMN "uid" text DEFAULT gen_random_uuid()::text NOT NULL;--> statement-breakpoint
ALTER TABLE "task_changes" ADD COLUMN "uid" text DEFAULT gen_random_uuid()::text NOT NULL;--> statement-breakpoint
ALTER TABLE "former_facts" ADD CONSTRAINT "former_facts_uid_unique" UNIQUE("uid");--> statement-breakpoint
ALTER TABLE "round_calls" ADD CONSTRAINT "round_calls_uid_unique" UNIQUE("uid");--> statement-breakpoint
ALTER TABLE "task_changes" ADD CONSTRAINT "task_changes_uid_unique" UNIQUE("uid");--> statement-breakpoint
UPDATE "marks" SET "newest" = ("seal"->>'newest')::bigint, "seal" = "seal" - 'newest' WHERE "seal" IS NOT NULL;--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "round_plans" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "round_plans" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "round_plans" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "rounds" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "rounds" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "rounds" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "round_deals" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "round_deals" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "round_deals" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "round_calls" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "round_calls" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "round_calls" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "round_ready" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "round_ready" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "round_ready" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "rests" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "rests" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "rests" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "kits" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "kits" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "kits" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "views" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "views" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "views" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "view_places" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "view_places" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "view_places" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "boards" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "boards" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "boards" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "board_openings" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "board_openings" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "board_openings" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "tries" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "tries" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "tries" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "thresholds" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "thresholds" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "thresholds" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "wishes" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "wishes" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "wishes" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "digest_times" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "digest_times" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "digest_times" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "webhooks" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "webhooks" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "webhooks" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "task_changes" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "task_changes" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "task_changes" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "former_facts" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "former_facts" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "former_facts" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
