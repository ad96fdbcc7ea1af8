-- What was saved in parts can't be read by block: it is saved anew.
DELETE FROM "snapshots";--> statement-breakpoint
ALTER TABLE "snapshots" DROP COLUMN "part";--> statement-breakpoint
ALTER TABLE "snapshots" ADD COLUMN "block" integer PRIMARY KEY NOT NULL;--> statement-breakpoint
ALTER TABLE "snapshots" ADD COLUMN "digest" text NOT NULL;
