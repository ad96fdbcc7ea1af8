ALTER TABLE "rounds" ADD COLUMN "began_really" timestamp (3) with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "rounds" ADD COLUMN "ended_really" timestamp (3) with time zone;