ALTER TABLE "organisation" ADD COLUMN "fiscal_weeks" jsonb;--> statement-breakpoint
ALTER TABLE "organisation" ADD COLUMN "fiscal_before" jsonb DEFAULT '[]'::jsonb NOT NULL;