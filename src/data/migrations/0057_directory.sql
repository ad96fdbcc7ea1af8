CREATE TABLE "directory_groups" (
	"id" text PRIMARY KEY NOT NULL,
	"display_name" text NOT NULL,
	"external_id" text
);
--> statement-breakpoint
CREATE TABLE "directory_members" (
	"group_id" text NOT NULL,
	"person_id" text NOT NULL,
	CONSTRAINT "directory_members_group_id_person_id_pk" PRIMARY KEY("group_id","person_id")
);
--> statement-breakpoint
CREATE TABLE "directory_people" (
	"person_id" text PRIMARY KEY NOT NULL,
	"user_name" text NOT NULL,
	"external_id" text,
	"given_name" text,
	"family_name" text,
	"gone_at" timestamp (3) with time zone
);
--> statement-breakpoint
ALTER TABLE "directory_members" ADD CONSTRAINT "directory_members_group_id_directory_groups_id_fk" FOREIGN KEY ("group_id") REFERENCES "public"."directory_groups"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "directory_members" ADD CONSTRAINT "directory_members_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE "directory_people" ADD CONSTRAINT "directory_people_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
CREATE INDEX "directory_members_person" ON "directory_members" USING btree ("person_id");--> statement-breakpoint
CREATE UNIQUE INDEX "directory_people_user" ON "directory_people" USING btree (lower("user_name")) WHERE "directory_people"."gone_at" is null;