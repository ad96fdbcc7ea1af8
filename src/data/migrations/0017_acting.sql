CREATE TABLE "kits" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"about" text DEFAULT '' NOT NULL,
	"steps" jsonb NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	CONSTRAINT "kits_name_unique" UNIQUE("name")
);
--> statement-breakpoint
CREATE TABLE "task_changes" (
	"id" serial PRIMARY KEY NOT NULL,
	"task_id" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by_id" text,
	"what" text NOT NULL,
	"before" jsonb NOT NULL,
	"why" text,
	"made" text
);
--> statement-breakpoint
ALTER TABLE "tasks" ADD COLUMN "team" text;--> statement-breakpoint
ALTER TABLE "tasks" ADD COLUMN "importance" text DEFAULT 'usual' NOT NULL;--> statement-breakpoint
ALTER TABLE "tasks" ADD COLUMN "asks" text;--> statement-breakpoint
ALTER TABLE "tasks" ADD COLUMN "checklist" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "tasks" ADD COLUMN "repeat" text;--> statement-breakpoint
ALTER TABLE "tasks" ADD COLUMN "series_id" text;--> statement-breakpoint
ALTER TABLE "tasks" ADD COLUMN "remind_on" date;--> statement-breakpoint
ALTER TABLE "tasks" ADD COLUMN "remind_unless_answered" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "task_changes" ADD CONSTRAINT "task_changes_task_id_tasks_id_fk" FOREIGN KEY ("task_id") REFERENCES "public"."tasks"("id") ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
CREATE INDEX "task_changes_task" ON "task_changes" USING btree ("task_id");