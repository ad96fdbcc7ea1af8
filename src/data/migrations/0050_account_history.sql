ALTER TABLE "former_facts" ADD COLUMN "account_id" text;--> statement-breakpoint
ALTER TABLE "former_facts" ADD CONSTRAINT "former_facts_account_id_accounts_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."accounts"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "former_facts_account" ON "former_facts" USING btree ("account_id");