CREATE TABLE "once_keys" (
	"key" text PRIMARY KEY NOT NULL,
	"at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"result" jsonb
);
--> statement-breakpoint
ALTER TABLE "api_keys" ADD COLUMN "write" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "api_keys" ADD COLUMN "areas" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "api_keys" ADD COLUMN "expires_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "code_secret" text;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "last_code" bigint;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "id" text DEFAULT gen_random_uuid()::text NOT NULL;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "last_seen_at" timestamp (3) with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "agent" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "source" text DEFAULT '' NOT NULL;