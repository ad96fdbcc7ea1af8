CREATE TABLE "weekly_files" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"day" date NOT NULL,
	"digest" text NOT NULL,
	"by_id" text NOT NULL,
	"taken_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"counts" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "weekly_missing" (
	"file_id" text NOT NULL,
	"deal_id" text NOT NULL,
	"decision" text,
	"decided_by" text,
	"decided_at" timestamp (3) with time zone,
	CONSTRAINT "weekly_missing_file_id_deal_id_pk" PRIMARY KEY("file_id","deal_id")
);
--> statement-breakpoint
CREATE TABLE "weekly_rows" (
	"file_id" text NOT NULL,
	"deal_id" text NOT NULL,
	"said" text[] NOT NULL,
	"stage" text,
	"amount" bigint,
	"currency" text,
	"close_date" date,
	"owner_id" text,
	"category" text,
	"next_step" text,
	"next_step_date" date,
	CONSTRAINT "weekly_rows_file_id_deal_id_pk" PRIMARY KEY("file_id","deal_id")
);
--> statement-breakpoint
ALTER TABLE "deal_versions" ALTER COLUMN "stage" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "organisation" ADD COLUMN "weekly_plan" jsonb;--> statement-breakpoint
ALTER TABLE "weekly_missing" ADD CONSTRAINT "weekly_missing_file_id_weekly_files_id_fk" FOREIGN KEY ("file_id") REFERENCES "public"."weekly_files"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "weekly_missing" ADD CONSTRAINT "weekly_missing_deal_id_deals_id_fk" FOREIGN KEY ("deal_id") REFERENCES "public"."deals"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "weekly_rows" ADD CONSTRAINT "weekly_rows_file_id_weekly_files_id_fk" FOREIGN KEY ("file_id") REFERENCES "public"."weekly_files"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "weekly_rows" ADD CONSTRAINT "weekly_rows_deal_id_deals_id_fk" FOREIGN KEY ("deal_id") REFERENCES "public"."deals"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "weekly_rows" ADD CONSTRAINT "weekly_rows_stage_stages_name_fk" FOREIGN KEY ("stage") REFERENCES "public"."stages"("name") ON DELETE no action ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE "weekly_rows" ADD CONSTRAINT "weekly_rows_owner_id_people_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE cascade;--> statement-breakpoint
CREATE UNIQUE INDEX "weekly_files_day" ON "weekly_files" USING btree ("day");--> statement-breakpoint
CREATE INDEX "weekly_missing_deal" ON "weekly_missing" USING btree ("deal_id");--> statement-breakpoint
CREATE INDEX "weekly_rows_deal" ON "weekly_rows" USING btree ("deal_id");