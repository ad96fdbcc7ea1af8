CREATE TABLE "closes" (
	"id" text PRIMARY KEY NOT NULL,
	"whose" text NOT NULL,
	"start" date NOT NULL,
	"end" date NOT NULL,
	"correction" integer DEFAULT 0 NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"really" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"by_id" text,
	"why" text,
	"account" jsonb NOT NULL,
	"seal" text NOT NULL,
	"newest" bigint NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"note_by_id" text,
	"reopened_at" timestamp (3) with time zone
);
--> statement-breakpoint
CREATE UNIQUE INDEX "closes_once" ON "closes" USING btree ("whose","start","end","correction") WHERE "closes"."reopened_at" is null;