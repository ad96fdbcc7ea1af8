CREATE TABLE "attachments" (
	"id" text PRIMARY KEY NOT NULL,
	"deal_id" text,
	"account_id" text,
	"activity_id" text,
	"name" text NOT NULL,
	"url" text,
	"type" text,
	"size" integer,
	"sha256" text,
	"added_at" timestamp (3) with time zone NOT NULL,
	"by_id" text,
	"removed_at" timestamp (3) with time zone
);
--> statement-breakpoint
CREATE TABLE "file_contents" (
	"sha256" text PRIMARY KEY NOT NULL,
	"bytes" "bytea" NOT NULL,
	"size" bigint NOT NULL,
	"kept_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "attachments" ADD CONSTRAINT "attachments_deal_id_deals_id_fk" FOREIGN KEY ("deal_id") REFERENCES "public"."deals"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attachments" ADD CONSTRAINT "attachments_account_id_accounts_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."accounts"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attachments" ADD CONSTRAINT "attachments_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "attachments_deal" ON "attachments" USING btree ("deal_id");--> statement-breakpoint
CREATE INDEX "attachments_account" ON "attachments" USING btree ("account_id");--> statement-breakpoint
CREATE INDEX "attachments_activity" ON "attachments" USING btree ("activity_id");--> statement-breakpoint
CREATE INDEX "attachments_sum" ON "attachments" USING btree ("sha256");--> statement-breakpoint
CREATE INDEX "attachments_words" ON "attachments" USING gin ("name" gin_trgm_ops);--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "account_notes" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "account_notes" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "account_notes" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
--> statement-breakpoint
CREATE TRIGGER "undo_insert" AFTER INSERT ON "attachments" REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_update" AFTER UPDATE ON "attachments" REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();--> statement-breakpoint
CREATE TRIGGER "undo_delete" AFTER DELETE ON "attachments" REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_for_undo();
