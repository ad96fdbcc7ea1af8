CREATE TABLE "former_facts" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"deal_id" text,
	"contact_id" text,
	"field" text NOT NULL,
	"before" text
);
--> statement-breakpoint
ALTER TABLE "activities" ADD COLUMN "recorded_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "activities" ADD COLUMN "planned_for" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "activities" ADD COLUMN "settled_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "close_plan_steps" ADD COLUMN "added_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "close_plan_steps" ADD COLUMN "removed_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "former_facts" ADD CONSTRAINT "former_facts_deal_id_deals_id_fk" FOREIGN KEY ("deal_id") REFERENCES "public"."deals"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "former_facts" ADD CONSTRAINT "former_facts_contact_id_contacts_id_fk" FOREIGN KEY ("contact_id") REFERENCES "public"."contacts"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "former_facts_deal" ON "former_facts" USING btree ("deal_id");--> statement-breakpoint
CREATE INDEX "former_facts_contact" ON "former_facts" USING btree ("contact_id");