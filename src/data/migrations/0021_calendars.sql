CREATE TABLE "feeds" (
	"person_id" text PRIMARY KEY NOT NULL,
	"token_hash" text NOT NULL,
	"made_at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "feeds_token_hash_unique" UNIQUE("token_hash")
);
--> statement-breakpoint
ALTER TABLE "feeds" ADD CONSTRAINT "feeds_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE cascade;