CREATE EXTENSION IF NOT EXISTS pg_trgm;--> statement-breakpoint
CREATE TABLE "packs" (
	"part" integer PRIMARY KEY NOT NULL,
	"form" text NOT NULL,
	"revision" bigint NOT NULL,
	"bytes" "bytea" NOT NULL
);
--> statement-breakpoint
ALTER TABLE "packs" ALTER COLUMN "bytes" SET STORAGE EXTERNAL;--> statement-breakpoint
CREATE INDEX "activities_subject_words" ON "activities" USING gin ("subject" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "activities_body_words" ON "activities" USING gin ("body" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "answers_words" ON "answers" USING gin ("note" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "audit_subject" ON "audit" USING btree ("subject","id");--> statement-breakpoint
CREATE INDEX "audit_action" ON "audit" USING btree ("action","id");--> statement-breakpoint
CREATE INDEX "audit_person" ON "audit" USING btree ("person_id","id");--> statement-breakpoint
CREATE INDEX "contacts_words" ON "contacts" USING gin ("name" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "notes_words" ON "notes" USING gin ("body" gin_trgm_ops);