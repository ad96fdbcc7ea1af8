ALTER TABLE "organisation" ADD COLUMN "risk_share" integer DEFAULT 70 NOT NULL;--> statement-breakpoint
CREATE INDEX "activities_contacts" ON "activities" USING gin ("contact_ids");