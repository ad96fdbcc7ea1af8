CREATE TABLE "answers_in" (
	"message_id" text PRIMARY KEY NOT NULL,
	"outbox_id" text,
	"at" timestamp (3) with time zone NOT NULL,
	"fate" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "digest_times" (
	"person_id" text PRIMARY KEY NOT NULL,
	"daily" text,
	"weekly" text
);
--> statement-breakpoint
CREATE TABLE "news" (
	"id" serial PRIMARY KEY NOT NULL,
	"person_id" text NOT NULL,
	"kind" text NOT NULL,
	"key" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"deal_id" text,
	"task_id" text,
	"words" text NOT NULL,
	"path" text NOT NULL,
	"on_screen" boolean NOT NULL,
	"mail" text NOT NULL,
	"read_at" timestamp (3) with time zone,
	"digested_at" timestamp (3) with time zone
);
--> statement-breakpoint
CREATE TABLE "outbox" (
	"id" text PRIMARY KEY NOT NULL,
	"key" text NOT NULL,
	"person_id" text,
	"address" text NOT NULL,
	"subject" text NOT NULL,
	"text" text NOT NULL,
	"html" text NOT NULL,
	"deal_id" text,
	"created_at" timestamp (3) with time zone NOT NULL,
	"state" text DEFAULT 'waiting' NOT NULL,
	"tries" integer DEFAULT 0 NOT NULL,
	"next_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"error" text,
	"sent_at" timestamp (3) with time zone,
	CONSTRAINT "outbox_key_unique" UNIQUE("key")
);
--> statement-breakpoint
CREATE TABLE "reach_state" (
	"key" text PRIMARY KEY NOT NULL,
	"value" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "wishes" (
	"person_id" text NOT NULL,
	"kind" text NOT NULL,
	"of" text DEFAULT '' NOT NULL,
	"on_screen" boolean NOT NULL,
	"mail" text NOT NULL,
	CONSTRAINT "wishes_person_id_kind_of_pk" PRIMARY KEY("person_id","kind","of")
);
--> statement-breakpoint
ALTER TABLE "digest_times" ADD CONSTRAINT "digest_times_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE "news" ADD CONSTRAINT "news_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE "outbox" ADD CONSTRAINT "outbox_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE set null ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE "wishes" ADD CONSTRAINT "wishes_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
CREATE UNIQUE INDEX "news_once" ON "news" USING btree ("person_id","kind","key");--> statement-breakpoint
CREATE INDEX "news_unread" ON "news" USING btree ("person_id","read_at");--> statement-breakpoint
CREATE INDEX "outbox_waiting" ON "outbox" USING btree ("state","next_at");