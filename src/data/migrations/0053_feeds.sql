CREATE TABLE "data_feeds" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	"covers" text DEFAULT '' NOT NULL,
	"by_id" text NOT NULL,
	"tell" text[] DEFAULT '{}' NOT NULL,
	"senders" text[] DEFAULT '{}' NOT NULL,
	"due" jsonb,
	"salt" text NOT NULL,
	"made_at" timestamp (3) with time zone NOT NULL,
	"on" boolean DEFAULT true NOT NULL,
	"ended_at" timestamp (3) with time zone
);
--> statement-breakpoint
CREATE TABLE "feed_runs" (
	"id" text PRIMARY KEY NOT NULL,
	"feed_id" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"way" text NOT NULL,
	"name" text NOT NULL,
	"sha256" text,
	"size" integer,
	"sender" text,
	"state" text NOT NULL,
	"words" text DEFAULT '' NOT NULL,
	"day" date,
	"before" date,
	"made_id" text
);
--> statement-breakpoint
ALTER TABLE "feed_runs" ADD CONSTRAINT "feed_runs_feed_id_data_feeds_id_fk" FOREIGN KEY ("feed_id") REFERENCES "public"."data_feeds"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "feed_runs_feed" ON "feed_runs" USING btree ("feed_id","at");--> statement-breakpoint
CREATE INDEX "feed_runs_sum" ON "feed_runs" USING btree ("sha256");--> statement-breakpoint
CREATE UNIQUE INDEX "feed_runs_missing" ON "feed_runs" USING btree ("feed_id","name","state") WHERE state = 'missing';