CREATE TABLE "intake_items" (
	"intake_id" text NOT NULL,
	"ordinal" integer NOT NULL,
	"sort" text NOT NULL,
	"key" text NOT NULL,
	"at" timestamp (3) with time zone,
	"from_address" text NOT NULL,
	"from_name" text NOT NULL,
	"others" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"subject" text NOT NULL,
	"body" text NOT NULL,
	"automatic" boolean DEFAULT false NOT NULL,
	"cancelled" boolean DEFAULT false NOT NULL,
	"activity_id" text,
	CONSTRAINT "intake_items_intake_id_ordinal_pk" PRIMARY KEY("intake_id","ordinal")
);
--> statement-breakpoint
CREATE TABLE "intakes" (
	"id" text PRIMARY KEY NOT NULL,
	"deal_id" text,
	"account_id" text,
	"by_id" text NOT NULL,
	"name" text NOT NULL,
	"made_at" timestamp (3) with time zone NOT NULL,
	"really" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"state" text DEFAULT 'reading' NOT NULL,
	"archive" boolean DEFAULT false NOT NULL,
	"done" integer DEFAULT 0 NOT NULL,
	"total" integer NOT NULL,
	"problems" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"made" jsonb DEFAULT '[]'::jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "activities" ADD COLUMN "message_id" text;--> statement-breakpoint
ALTER TABLE "intake_items" ADD CONSTRAINT "intake_items_intake_id_intakes_id_fk" FOREIGN KEY ("intake_id") REFERENCES "public"."intakes"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "intakes" ADD CONSTRAINT "intakes_deal_id_deals_id_fk" FOREIGN KEY ("deal_id") REFERENCES "public"."deals"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "intakes" ADD CONSTRAINT "intakes_account_id_accounts_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."accounts"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "activities_message" ON "activities" USING btree ("message_id") WHERE "activities"."message_id" is not null;