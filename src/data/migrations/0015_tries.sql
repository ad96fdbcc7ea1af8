CREATE TABLE "tries" (
	"id" text PRIMARY KEY NOT NULL,
	"owner_id" text NOT NULL,
	"name" text NOT NULL,
	"whose" text NOT NULL,
	"due" text NOT NULL,
	"made_on" date NOT NULL,
	"moves" jsonb NOT NULL,
	"shared_with" text,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "tries" ADD CONSTRAINT "tries_owner_id_people_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE cascade;