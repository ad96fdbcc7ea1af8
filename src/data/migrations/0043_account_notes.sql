CREATE TABLE "account_notes" (
	"id" text PRIMARY KEY NOT NULL,
	"account_id" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by_id" text,
	"body" text NOT NULL,
	"ended_at" timestamp (3) with time zone
);
--> statement-breakpoint
ALTER TABLE "accounts" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "contacts" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "account_notes" ADD CONSTRAINT "account_notes_account_id_accounts_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."accounts"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "account_notes_account" ON "account_notes" USING btree ("account_id");