CREATE TABLE "password_links" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"person_id" text NOT NULL,
	"expires_at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "organisation" ADD COLUMN "name" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "organisation" ADD COLUMN "demo" jsonb;--> statement-breakpoint
ALTER TABLE "organisation" ADD COLUMN "begin_hash" text;--> statement-breakpoint
ALTER TABLE "password_links" ADD CONSTRAINT "password_links_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE cascade;