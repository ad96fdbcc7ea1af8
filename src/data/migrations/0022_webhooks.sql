CREATE TABLE "webhook_calls" (
	"id" serial PRIMARY KEY NOT NULL,
	"hook_id" text NOT NULL,
	"key" text NOT NULL,
	"event" text NOT NULL,
	"body" jsonb NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"state" text DEFAULT 'waiting' NOT NULL,
	"tries" integer DEFAULT 0 NOT NULL,
	"next_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"status" integer,
	"answer" text
);
--> statement-breakpoint
CREATE TABLE "webhooks" (
	"id" text PRIMARY KEY NOT NULL,
	"url" text NOT NULL,
	"secret" text NOT NULL,
	"events" text[] NOT NULL,
	"on" boolean DEFAULT true NOT NULL,
	"by_id" text,
	"created_at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "webhook_calls" ADD CONSTRAINT "webhook_calls_hook_id_webhooks_id_fk" FOREIGN KEY ("hook_id") REFERENCES "public"."webhooks"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "webhook_calls_once" ON "webhook_calls" USING btree ("hook_id","key");--> statement-breakpoint
CREATE INDEX "webhook_calls_waiting" ON "webhook_calls" USING btree ("state","next_at");