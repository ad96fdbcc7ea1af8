CREATE TABLE "findings" (
	"key" text PRIMARY KEY NOT NULL,
	"day" date NOT NULL,
	"revision" bigint,
	"made_at" timestamp with time zone,
	"done" integer DEFAULT 0 NOT NULL,
	"steps" integer DEFAULT 1 NOT NULL,
	"asked_at" timestamp with time zone DEFAULT now() NOT NULL,
	"failed" text,
	"answer" jsonb
);
--> statement-breakpoint
ALTER TABLE "organisation" ADD COLUMN "attention_was" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "organisation" ADD COLUMN "commit_goal" integer DEFAULT 90 NOT NULL;--> statement-breakpoint
ALTER TABLE "organisation" ADD COLUMN "reason_returns" jsonb DEFAULT '{}'::jsonb NOT NULL;