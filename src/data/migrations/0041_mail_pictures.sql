ALTER TABLE "outbox_files" DROP CONSTRAINT "outbox_files_pkey";--> statement-breakpoint
ALTER TABLE "outbox_files" ADD CONSTRAINT "outbox_files_outbox_id_name_pk" PRIMARY KEY("outbox_id","name");--> statement-breakpoint
ALTER TABLE "outbox_files" ADD COLUMN "content_id" text;--> statement-breakpoint
-- What came before the rounds of a weekday comes on that weekday.
UPDATE "sendings" SET "rhythm" = jsonb_build_object('kind', 'weekdays', 'days', jsonb_build_array("rhythm" -> 'weekday')) WHERE "rhythm" ->> 'kind' = 'round';
