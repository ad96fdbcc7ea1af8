CREATE TABLE "accounts" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text DEFAULT '' NOT NULL,
	"kind" text,
	"industry" text,
	"territory" text,
	"owner_id" text
);
--> statement-breakpoint
CREATE TABLE "activities" (
	"id" text PRIMARY KEY NOT NULL,
	"deal_id" text,
	"account_id" text,
	"contact_ids" text[] DEFAULT '{}' NOT NULL,
	"kind" text NOT NULL,
	"direction" text NOT NULL,
	"state" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by_id" text,
	"subject" text,
	"body" text
);
--> statement-breakpoint
CREATE TABLE "answers" (
	"deal_id" text NOT NULL,
	"question_id" text NOT NULL,
	"level" text NOT NULL,
	"note" text,
	"at" timestamp (3) with time zone NOT NULL,
	"by_id" text,
	CONSTRAINT "answers_deal_id_question_id_at_pk" PRIMARY KEY("deal_id","question_id","at")
);
--> statement-breakpoint
CREATE TABLE "api_keys" (
	"id" text PRIMARY KEY NOT NULL,
	"person_id" text NOT NULL,
	"name" text NOT NULL,
	"token_hash" text NOT NULL,
	"hint" text NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"last_used_at" timestamp (3) with time zone,
	"revoked_at" timestamp (3) with time zone,
	CONSTRAINT "api_keys_token_hash_unique" UNIQUE("token_hash")
);
--> statement-breakpoint
CREATE TABLE "audit" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"person_id" text,
	"action" text NOT NULL,
	"subject" text,
	"detail" jsonb DEFAULT '{}'::jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "contacts" (
	"id" text PRIMARY KEY NOT NULL,
	"account_id" text,
	"name" text DEFAULT '' NOT NULL,
	"title" text,
	"email" text,
	"buying_role" text,
	"reports_to_id" text
);
--> statement-breakpoint
CREATE TABLE "deal_contacts" (
	"deal_id" text NOT NULL,
	"contact_id" text NOT NULL,
	CONSTRAINT "deal_contacts_deal_id_contact_id_pk" PRIMARY KEY("deal_id","contact_id")
);
--> statement-breakpoint
CREATE TABLE "deal_lines" (
	"deal_id" text NOT NULL,
	"ordinal" integer NOT NULL,
	"product" text,
	"family" text,
	"quantity" numeric,
	"list_price" bigint,
	"unit_price" bigint,
	"currency" text,
	CONSTRAINT "deal_lines_deal_id_ordinal_pk" PRIMARY KEY("deal_id","ordinal")
);
--> statement-breakpoint
CREATE TABLE "deal_versions" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"deal_id" text NOT NULL,
	"valid_from" timestamp (3) with time zone NOT NULL,
	"valid_to" timestamp (3) with time zone,
	"stage" text NOT NULL,
	"amount" bigint,
	"currency" text,
	"close_date" date,
	"owner_id" text,
	"category" text,
	"next_step" text,
	"next_step_date" date,
	"by_id" text,
	"import_id" text
);
--> statement-breakpoint
CREATE TABLE "deals" (
	"id" text PRIMARY KEY NOT NULL,
	"account_id" text,
	"name" text DEFAULT '' NOT NULL,
	"source" text,
	"created_at" timestamp (3) with time zone NOT NULL,
	"competitor" text,
	"outcome_reason" text,
	"tags" text[] DEFAULT '{}' NOT NULL
);
--> statement-breakpoint
CREATE TABLE "holidays" (
	"date" date PRIMARY KEY NOT NULL,
	"name" text
);
--> statement-breakpoint
CREATE TABLE "import_extras" (
	"file" text NOT NULL,
	"row_key" text NOT NULL,
	"fields" jsonb NOT NULL,
	CONSTRAINT "import_extras_file_row_key_pk" PRIMARY KEY("file","row_key")
);
--> statement-breakpoint
CREATE TABLE "imports" (
	"id" text PRIMARY KEY NOT NULL,
	"by_id" text,
	"name" text NOT NULL,
	"dry_run" boolean DEFAULT false NOT NULL,
	"state" text NOT NULL,
	"step" text DEFAULT '' NOT NULL,
	"done" integer DEFAULT 0 NOT NULL,
	"total" integer DEFAULT 0 NOT NULL,
	"started_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"beat_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"ended_at" timestamp (3) with time zone,
	"counts" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"changed" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"unknown_columns" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"problems" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"problem_count" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "marks" (
	"at" timestamp (3) with time zone NOT NULL,
	"name" text NOT NULL,
	CONSTRAINT "marks_at_name_pk" PRIMARY KEY("at","name")
);
--> statement-breakpoint
CREATE TABLE "orders" (
	"account_id" text NOT NULL,
	"ordinal" integer NOT NULL,
	"date" date NOT NULL,
	"product" text,
	"amount" bigint,
	"currency" text,
	CONSTRAINT "orders_account_id_ordinal_pk" PRIMARY KEY("account_id","ordinal")
);
--> statement-breakpoint
CREATE TABLE "organisation" (
	"id" integer PRIMARY KEY DEFAULT 1 NOT NULL,
	"time_zone" text DEFAULT 'Europe/Berlin' NOT NULL,
	"base_currency" text DEFAULT 'EUR' NOT NULL,
	"fiscal_start_month" integer DEFAULT 1 NOT NULL,
	"weekend" integer[] DEFAULT '{6,0}' NOT NULL,
	"today" date,
	"activity_kinds" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"flags" jsonb DEFAULT '{}'::jsonb NOT NULL,
	CONSTRAINT "one_organisation" CHECK ("organisation"."id" = 1)
);
--> statement-breakpoint
CREATE TABLE "people" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"email" text,
	"role" text NOT NULL,
	"team" text,
	"active_from" date,
	"active_to" date,
	"password_hash" text,
	CONSTRAINT "people_role" CHECK ("people"."role" in ('manager', 'rep', 'ops', 'viewer'))
);
--> statement-breakpoint
CREATE TABLE "questions" (
	"id" text PRIMARY KEY NOT NULL,
	"ordinal" integer NOT NULL,
	"area" text NOT NULL,
	"prompt" text NOT NULL,
	"help" text,
	"weight" double precision NOT NULL,
	"due_stage_position" integer NOT NULL,
	"key" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "quotes" (
	"id" text PRIMARY KEY NOT NULL,
	"deal_id" text NOT NULL,
	"number" text,
	"sent_on" date,
	"valid_until" date,
	"answered_on" date,
	"answer" text,
	"amount" bigint,
	"currency" text
);
--> statement-breakpoint
CREATE TABLE "rates" (
	"currency" text NOT NULL,
	"date" date NOT NULL,
	"rate" numeric NOT NULL,
	CONSTRAINT "rates_currency_date_pk" PRIMARY KEY("currency","date")
);
--> statement-breakpoint
CREATE TABLE "revision" (
	"id" integer PRIMARY KEY DEFAULT 1 NOT NULL,
	"number" bigint DEFAULT 0 NOT NULL,
	CONSTRAINT "one_revision" CHECK ("revision"."id" = 1)
);
--> statement-breakpoint
CREATE TABLE "sessions" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"person_id" text NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"expires_at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sign_in_attempts" (
	"key" text PRIMARY KEY NOT NULL,
	"points" integer DEFAULT 0 NOT NULL,
	"expire" bigint
);
--> statement-breakpoint
CREATE TABLE "stages" (
	"name" text PRIMARY KEY NOT NULL,
	"position" integer NOT NULL,
	"kind" text NOT NULL,
	"probability" numeric NOT NULL,
	"usual_days" double precision NOT NULL,
	CONSTRAINT "stages_position_unique" UNIQUE("position")
);
--> statement-breakpoint
CREATE TABLE "tail" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"revision" bigint NOT NULL,
	"deal_id" text
);
--> statement-breakpoint
CREATE TABLE "targets" (
	"person_id" text NOT NULL,
	"period_start" date NOT NULL,
	"period_end" date NOT NULL,
	"amount" bigint NOT NULL,
	"currency" text NOT NULL,
	CONSTRAINT "targets_person_id_period_start_period_end_pk" PRIMARY KEY("person_id","period_start","period_end")
);
--> statement-breakpoint
CREATE TABLE "tasks" (
	"id" text PRIMARY KEY NOT NULL,
	"deal_id" text,
	"title" text NOT NULL,
	"assignee_id" text,
	"due_on" date,
	"created_at" timestamp (3) with time zone NOT NULL,
	"done_at" timestamp (3) with time zone,
	"state" text NOT NULL,
	"flags" text[] DEFAULT '{}' NOT NULL,
	"created_by_id" text,
	"note" text
);
--> statement-breakpoint
CREATE TABLE "teams" (
	"name" text PRIMARY KEY NOT NULL,
	"parent" text
);
--> statement-breakpoint
ALTER TABLE "activities" ADD CONSTRAINT "activities_deal_id_deals_id_fk" FOREIGN KEY ("deal_id") REFERENCES "public"."deals"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "activities" ADD CONSTRAINT "activities_account_id_accounts_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."accounts"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "answers" ADD CONSTRAINT "answers_deal_id_deals_id_fk" FOREIGN KEY ("deal_id") REFERENCES "public"."deals"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "answers" ADD CONSTRAINT "answers_question_id_questions_id_fk" FOREIGN KEY ("question_id") REFERENCES "public"."questions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "api_keys" ADD CONSTRAINT "api_keys_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE "deal_contacts" ADD CONSTRAINT "deal_contacts_deal_id_deals_id_fk" FOREIGN KEY ("deal_id") REFERENCES "public"."deals"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "deal_contacts" ADD CONSTRAINT "deal_contacts_contact_id_contacts_id_fk" FOREIGN KEY ("contact_id") REFERENCES "public"."contacts"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "deal_lines" ADD CONSTRAINT "deal_lines_deal_id_deals_id_fk" FOREIGN KEY ("deal_id") REFERENCES "public"."deals"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "deal_versions" ADD CONSTRAINT "deal_versions_deal_id_deals_id_fk" FOREIGN KEY ("deal_id") REFERENCES "public"."deals"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "deal_versions" ADD CONSTRAINT "deal_versions_stage_stages_name_fk" FOREIGN KEY ("stage") REFERENCES "public"."stages"("name") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "deal_versions" ADD CONSTRAINT "deal_versions_owner_id_people_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE "deals" ADD CONSTRAINT "deals_account_id_accounts_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."accounts"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "orders" ADD CONSTRAINT "orders_account_id_accounts_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."accounts"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "people" ADD CONSTRAINT "people_team_teams_name_fk" FOREIGN KEY ("team") REFERENCES "public"."teams"("name") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "quotes" ADD CONSTRAINT "quotes_deal_id_deals_id_fk" FOREIGN KEY ("deal_id") REFERENCES "public"."deals"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE "targets" ADD CONSTRAINT "targets_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE "tasks" ADD CONSTRAINT "tasks_deal_id_deals_id_fk" FOREIGN KEY ("deal_id") REFERENCES "public"."deals"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tasks" ADD CONSTRAINT "tasks_assignee_id_people_id_fk" FOREIGN KEY ("assignee_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE cascade;--> statement-breakpoint
CREATE INDEX "activities_deal" ON "activities" USING btree ("deal_id");--> statement-breakpoint
CREATE INDEX "activities_account" ON "activities" USING btree ("account_id");--> statement-breakpoint
CREATE INDEX "contacts_account" ON "contacts" USING btree ("account_id");--> statement-breakpoint
CREATE UNIQUE INDEX "deal_versions_at" ON "deal_versions" USING btree ("deal_id","valid_from");--> statement-breakpoint
CREATE UNIQUE INDEX "deal_versions_current" ON "deal_versions" USING btree ("deal_id") WHERE "deal_versions"."valid_to" is null;--> statement-breakpoint
CREATE UNIQUE INDEX "people_email" ON "people" USING btree (lower("email"));--> statement-breakpoint
CREATE INDEX "quotes_deal" ON "quotes" USING btree ("deal_id");--> statement-breakpoint
CREATE INDEX "tail_revision" ON "tail" USING btree ("revision");--> statement-breakpoint
CREATE INDEX "tasks_deal" ON "tasks" USING btree ("deal_id");--> statement-breakpoint
CREATE INDEX "tasks_assignee" ON "tasks" USING btree ("assignee_id");