CREATE TABLE "thresholds" (
	"team" text DEFAULT '' NOT NULL,
	"figure" text NOT NULL,
	"side" text NOT NULL,
	"value" double precision NOT NULL,
	CONSTRAINT "thresholds_team_figure_pk" PRIMARY KEY("team","figure")
);
--> statement-breakpoint
ALTER TABLE "targets" ADD COLUMN "family" text DEFAULT '' NOT NULL;
--> statement-breakpoint
ALTER TABLE "targets" DROP CONSTRAINT "targets_person_id_period_start_period_end_pk";
--> statement-breakpoint
ALTER TABLE "targets" ADD CONSTRAINT "targets_person_id_period_start_period_end_family_pk" PRIMARY KEY("person_id","period_start","period_end","family");
--> statement-breakpoint
-- What is kept aside of a target is named by its family as well.
UPDATE "import_extras" SET "row_key" = "row_key" || E'\x1f' WHERE "file" = 'targets.csv';
