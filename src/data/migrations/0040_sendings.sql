CREATE TABLE "outbox_files" (
	"outbox_id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"type" text NOT NULL,
	"bytes" "bytea" NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sendings" (
	"id" text PRIMARY KEY NOT NULL,
	"by_id" text NOT NULL,
	"kind" text NOT NULL,
	"of" text DEFAULT '' NOT NULL,
	"whose" text DEFAULT '' NOT NULL,
	"rhythm" jsonb NOT NULL,
	"at" text NOT NULL,
	"to" text[] NOT NULL,
	"attach" boolean DEFAULT false NOT NULL,
	"skip_same" boolean DEFAULT false NOT NULL,
	"sent" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"made_on" date NOT NULL,
	"ended_at" timestamp (3) with time zone,
	"ended_by_id" text
);
--> statement-breakpoint
ALTER TABLE "outbox_files" ADD CONSTRAINT "outbox_files_outbox_id_outbox_id_fk" FOREIGN KEY ("outbox_id") REFERENCES "public"."outbox"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sendings" ADD CONSTRAINT "sendings_by_id_people_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE cascade;