-- A step is kept as a code and worded when it is read.
UPDATE "imports" SET "step" = 'needed' WHERE "step" LIKE 'Rows that other rows%';--> statement-breakpoint
UPDATE "imports" SET "step" = '' WHERE "step" <> 'needed';
