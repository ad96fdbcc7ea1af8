CREATE TABLE "talk_points" (
	"id" text PRIMARY KEY NOT NULL,
	"person_id" text NOT NULL,
	"by_id" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"body" text NOT NULL,
	"struck_at" timestamp (3) with time zone
);
--> statement-breakpoint
ALTER TABLE "talk_points" ADD CONSTRAINT "talk_points_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
CREATE INDEX "talk_points_person" ON "talk_points" USING btree ("person_id");