ALTER TABLE "marks" ADD COLUMN "by_id" text;--> statement-breakpoint
ALTER TABLE "marks" ADD COLUMN "seal" jsonb;