CREATE TABLE "handovers" (
	"id" text PRIMARY KEY NOT NULL,
	"person_id" text NOT NULL,
	"by_id" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"record" jsonb NOT NULL,
	"undone_at" timestamp (3) with time zone
);
--> statement-breakpoint
ALTER TABLE "deal_contacts" ADD COLUMN "buying_role" text;--> statement-breakpoint
ALTER TABLE "audit" ADD COLUMN "really" timestamp (3) with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "handovers" ADD CONSTRAINT "handovers_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
-- What was told before was told by the server's own clock.
UPDATE "audit" SET "really" = "at";
