CREATE TABLE "rests" (
	"id" text PRIMARY KEY NOT NULL,
	"deal_id" text NOT NULL,
	"state" text NOT NULL,
	"from_day" date NOT NULL,
	"until_day" date NOT NULL,
	"reason" text NOT NULL,
	"flags" text[] DEFAULT '{}' NOT NULL,
	"asked_by_id" text,
	"by_id" text,
	"at" timestamp (3) with time zone NOT NULL,
	"ended_on" date,
	"ended_by" text
);
--> statement-breakpoint
CREATE TABLE "round_calls" (
	"id" serial PRIMARY KEY NOT NULL,
	"round_id" text NOT NULL,
	"deal_id" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by_id" text NOT NULL,
	"call" text,
	"to_day" date,
	"why" text,
	"competitor" text,
	"left" text DEFAULT 'none' NOT NULL,
	"category" text,
	"amount_base" bigint DEFAULT 0 NOT NULL,
	"close_day" date,
	"owner_id" text
);
--> statement-breakpoint
CREATE TABLE "round_deals" (
	"round_id" text NOT NULL,
	"deal_id" text NOT NULL,
	"place" integer NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	CONSTRAINT "round_deals_round_id_deal_id_pk" PRIMARY KEY("round_id","deal_id")
);
--> statement-breakpoint
CREATE TABLE "round_plans" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"whose" text NOT NULL,
	"weekday" integer NOT NULL,
	"sorted" text DEFAULT 'attention' NOT NULL,
	"calm_too" boolean DEFAULT false NOT NULL,
	"by_id" text NOT NULL,
	"version" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "round_ready" (
	"deal_id" text NOT NULL,
	"person_id" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "round_ready_deal_id_person_id_pk" PRIMARY KEY("deal_id","person_id")
);
--> statement-breakpoint
CREATE TABLE "rounds" (
	"id" text PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"name" text NOT NULL,
	"whose" text NOT NULL,
	"due" text NOT NULL,
	"sorted" text NOT NULL,
	"started_by_id" text NOT NULL,
	"started_at" timestamp (3) with time zone NOT NULL,
	"ended_at" timestamp (3) with time zone,
	"ended_by_id" text,
	"at_deal" text,
	"note" text DEFAULT '' NOT NULL,
	"before" jsonb NOT NULL,
	"after" jsonb,
	"plan_id" text
);
--> statement-breakpoint
ALTER TABLE "tasks" ADD COLUMN "round_id" text;--> statement-breakpoint
ALTER TABLE "rests" ADD CONSTRAINT "rests_deal_id_deals_id_fk" FOREIGN KEY ("deal_id") REFERENCES "public"."deals"("id") ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE "round_calls" ADD CONSTRAINT "round_calls_round_id_rounds_id_fk" FOREIGN KEY ("round_id") REFERENCES "public"."rounds"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "round_calls" ADD CONSTRAINT "round_calls_deal_id_deals_id_fk" FOREIGN KEY ("deal_id") REFERENCES "public"."deals"("id") ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE "round_calls" ADD CONSTRAINT "round_calls_by_id_people_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE "round_deals" ADD CONSTRAINT "round_deals_round_id_rounds_id_fk" FOREIGN KEY ("round_id") REFERENCES "public"."rounds"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "round_deals" ADD CONSTRAINT "round_deals_deal_id_deals_id_fk" FOREIGN KEY ("deal_id") REFERENCES "public"."deals"("id") ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE "round_plans" ADD CONSTRAINT "round_plans_by_id_people_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE "round_ready" ADD CONSTRAINT "round_ready_deal_id_deals_id_fk" FOREIGN KEY ("deal_id") REFERENCES "public"."deals"("id") ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE "round_ready" ADD CONSTRAINT "round_ready_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE "rounds" ADD CONSTRAINT "rounds_started_by_id_people_id_fk" FOREIGN KEY ("started_by_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE cascade;--> statement-breakpoint
CREATE INDEX "rests_deal" ON "rests" USING btree ("deal_id");--> statement-breakpoint
CREATE INDEX "round_calls_round" ON "round_calls" USING btree ("round_id");--> statement-breakpoint
CREATE INDEX "round_calls_deal" ON "round_calls" USING btree ("deal_id");--> statement-breakpoint
CREATE INDEX "round_deals_deal" ON "round_deals" USING btree ("deal_id");--> statement-breakpoint
CREATE INDEX "rounds_started" ON "rounds" USING btree ("started_at");--> statement-breakpoint
CREATE INDEX "tasks_round" ON "tasks" USING btree ("round_id");