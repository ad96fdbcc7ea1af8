ALTER TABLE "organisation" ADD COLUMN "attention" jsonb DEFAULT '{}'::jsonb NOT NULL;
--> statement-breakpoint
-- The fourth category has another word.
UPDATE "deal_versions" SET "category" = 'left_out' WHERE "category" = 'omitted';
--> statement-breakpoint
UPDATE "import_undo" SET "before" = jsonb_set("before", '{category}', '"left_out"') WHERE "before"->>'category' = 'omitted';
--> statement-breakpoint
UPDATE "import_undo" SET "after" = jsonb_set("after", '{category}', '"left_out"') WHERE "after"->>'category' = 'omitted';
--> statement-breakpoint
UPDATE "views" SET "query" = regexp_replace("query", '(category\.in\.[^&]*)omitted', '\1left%20out', 'g') WHERE "query" LIKE '%category.in.%omitted%';

--> statement-breakpoint
-- Its plan is made when few rows were written, and serves for many: never a loop within a loop.
ALTER FUNCTION "keep_for_undo"() SET enable_nestloop = off;
