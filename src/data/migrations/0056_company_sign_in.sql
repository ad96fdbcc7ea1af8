CREATE TABLE "sign_in_provider" (
	"id" integer PRIMARY KEY DEFAULT 1 NOT NULL,
	"on" boolean DEFAULT true NOT NULL,
	"name" text NOT NULL,
	"issuer" text NOT NULL,
	"client_id" text NOT NULL,
	"client_secret" text,
	"claim" text DEFAULT 'groups' NOT NULL,
	"groups" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"passwords" boolean DEFAULT true NOT NULL,
	"emergency_id" text,
	CONSTRAINT "one_sign_in_provider" CHECK ("sign_in_provider"."id" = 1)
);
--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "subject" text;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "provider_sid" text;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "id_token" text;--> statement-breakpoint
ALTER TABLE "sign_in_provider" ADD CONSTRAINT "sign_in_provider_emergency_id_people_id_fk" FOREIGN KEY ("emergency_id") REFERENCES "public"."people"("id") ON DELETE set null ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE "people" ADD CONSTRAINT "people_subject_unique" UNIQUE("subject");