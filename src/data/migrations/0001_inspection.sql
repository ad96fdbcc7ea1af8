CREATE TABLE "close_plan_steps" (
	"id" text PRIMARY KEY NOT NULL,
	"deal_id" text NOT NULL,
	"title" text NOT NULL,
	"due_on" date,
	"side" text NOT NULL,
	"done_on" date,
	CONSTRAINT "close_plan_side" CHECK ("close_plan_steps"."side" in ('ours', 'theirs'))
);
--> statement-breakpoint
CREATE TABLE "notes" (
	"id" text PRIMARY KEY NOT NULL,
	"deal_id" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by_id" text,
	"body" text NOT NULL,
	"mentions" text[] DEFAULT '{}' NOT NULL
);
--> statement-breakpoint
CREATE TABLE "question_editions" (
	"at" timestamp (3) with time zone NOT NULL,
	"question_id" text NOT NULL,
	"place" integer NOT NULL,
	"area" text NOT NULL,
	"prompt" text NOT NULL,
	"help" text,
	"weight" double precision NOT NULL,
	"due_stage_position" integer NOT NULL,
	"key" boolean DEFAULT false NOT NULL,
	CONSTRAINT "question_editions_at_question_id_pk" PRIMARY KEY("at","question_id")
);
--> statement-breakpoint
CREATE TABLE "view_places" (
	"person_id" text NOT NULL,
	"view_id" text NOT NULL,
	"position" integer DEFAULT 0 NOT NULL,
	"opening" boolean DEFAULT false NOT NULL,
	CONSTRAINT "view_places_person_id_view_id_pk" PRIMARY KEY("person_id","view_id")
);
--> statement-breakpoint
CREATE TABLE "views" (
	"id" text PRIMARY KEY NOT NULL,
	"owner_id" text NOT NULL,
	"name" text NOT NULL,
	"query" text NOT NULL,
	"shared_with" text,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "deal_versions" DROP CONSTRAINT "deal_versions_stage_stages_name_fk";
--> statement-breakpoint
ALTER TABLE "answers" ADD COLUMN "shown_by" text;--> statement-breakpoint
ALTER TABLE "deal_versions" ADD COLUMN "reason" text;--> statement-breakpoint
ALTER TABLE "organisation" ADD COLUMN "outcome_reasons" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "organisation" ADD COLUMN "contact_bands" integer[] DEFAULT '{14,42,91}' NOT NULL;--> statement-breakpoint
ALTER TABLE "close_plan_steps" ADD CONSTRAINT "close_plan_steps_deal_id_deals_id_fk" FOREIGN KEY ("deal_id") REFERENCES "public"."deals"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "notes" ADD CONSTRAINT "notes_deal_id_deals_id_fk" FOREIGN KEY ("deal_id") REFERENCES "public"."deals"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "question_editions" ADD CONSTRAINT "question_editions_question_id_questions_id_fk" FOREIGN KEY ("question_id") REFERENCES "public"."questions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "view_places" ADD CONSTRAINT "view_places_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE "view_places" ADD CONSTRAINT "view_places_view_id_views_id_fk" FOREIGN KEY ("view_id") REFERENCES "public"."views"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "views" ADD CONSTRAINT "views_owner_id_people_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
CREATE INDEX "close_plan_steps_deal" ON "close_plan_steps" USING btree ("deal_id");--> statement-breakpoint
CREATE INDEX "notes_deal" ON "notes" USING btree ("deal_id");--> statement-breakpoint
CREATE INDEX "notes_mentions" ON "notes" USING gin ("mentions");--> statement-breakpoint
ALTER TABLE "deal_versions" ADD CONSTRAINT "deal_versions_stage_stages_name_fk" FOREIGN KEY ("stage") REFERENCES "public"."stages"("name") ON DELETE no action ON UPDATE cascade;