DROP INDEX "weekly_files_day";--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "also" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "weekly_files" ADD COLUMN "covers" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "weekly_files" ADD COLUMN "plan" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
CREATE UNIQUE INDEX "weekly_files_day" ON "weekly_files" USING btree ("day","covers");--> statement-breakpoint
UPDATE "weekly_files" SET "plan" = coalesce((SELECT "weekly_plan" - 'decimal' FROM "organisation" WHERE "id" = 1), '{}'::jsonb);--> statement-breakpoint
ALTER TABLE "organisation" DROP COLUMN "weekly_plan";