CREATE TABLE "desk_asides" (
	"person_id" text NOT NULL,
	"item" text NOT NULL,
	"said" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "desk_asides_person_id_item_pk" PRIMARY KEY("person_id","item")
);
--> statement-breakpoint
CREATE TABLE "desk_looks" (
	"person_id" text PRIMARY KEY NOT NULL,
	"day" date NOT NULL,
	"before" date
);
--> statement-breakpoint
ALTER TABLE "desk_asides" ADD CONSTRAINT "desk_asides_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE "desk_looks" ADD CONSTRAINT "desk_looks_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE cascade;