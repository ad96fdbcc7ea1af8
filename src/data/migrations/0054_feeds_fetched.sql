ALTER TABLE "data_feeds" ADD COLUMN "url" text;--> statement-breakpoint
ALTER TABLE "data_feeds" ADD COLUMN "header" text;--> statement-breakpoint
ALTER TABLE "data_feeds" ADD COLUMN "rule" text;--> statement-breakpoint
ALTER TABLE "data_feeds" ADD COLUMN "next_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "data_feeds" ADD COLUMN "fetched_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "data_feeds" ADD COLUMN "etag" text;--> statement-breakpoint
ALTER TABLE "data_feeds" ADD COLUMN "last_modified" text;