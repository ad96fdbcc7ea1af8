-- News keep what they are about, and are worded when they are read; what was stored in words stays so, in `told`.
ALTER TABLE "news" ALTER COLUMN "words" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "news" ADD COLUMN "facts" jsonb;--> statement-breakpoint
UPDATE "news" SET "facts" = jsonb_build_object('told', "words");--> statement-breakpoint
ALTER TABLE "news" ALTER COLUMN "facts" SET NOT NULL;
