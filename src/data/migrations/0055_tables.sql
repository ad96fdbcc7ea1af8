CREATE TABLE "outside_parts" (
	"table_name" text NOT NULL,
	"part" integer NOT NULL,
	"digest" text NOT NULL,
	"rows" jsonb NOT NULL,
	CONSTRAINT "outside_parts_table_name_part_pk" PRIMARY KEY("table_name","part")
);
--> statement-breakpoint
CREATE TABLE "outside_state" (
	"id" integer PRIMARY KEY DEFAULT 1 NOT NULL,
	"day" date NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"revision" bigint NOT NULL
);
