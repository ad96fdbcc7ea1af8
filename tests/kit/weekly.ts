import { eq } from "drizzle-orm";
import { connection } from "@/data/db";
import { dealVersions } from "@/data/schema";
import { previewWeekly, takeWeekly } from "@/features/import/server/weekly/take";
import type { WeeklyPlan } from "@/formats/weekly/plan";
import { as } from "./database";

/** A team without history: people, stages and settings, no deals. */
export const EMPTY = {
	"deals.csv": ["id,account_id,name,source,created_at,competitor,outcome_reason,tags"],
	"deal_versions.csv": ["deal_id,at,stage,amount,currency,close_date,owner_id,category,next_step,next_step_date"],
};
export const HEADER = "Ref,Opportunity,Company,Phase,Value,Closing date,Owner";
export const file = (name: string, ...lines: string[]) => ({ name, bytes: new TextEncoder().encode([HEADER, ...lines].join("\n")), day: null, plan: null });
export const OVENS = "7,Deck ovens,Millrace Bread,Survey,1200.50,2026-12-18,Rae Penn";
export const MIXERS = "8,Mixers,Oat Inn,Enquiry,500,2026-12-10,sol@firm.example";
export const PROOFER = "9,Proofer,New Rolls,Enquiry,80,2026-12-22,Una Fern";
export type Sent = Omit<ReturnType<typeof file>, "day" | "plan"> & { day: string | null; plan: Partial<WeeklyPlan> | null };
export const take = async (sent: Sent, ...confirmed: string[]) => takeWeekly(await as("ops"), { sent, confirmed });
export const preview = async (sent: Sent) => previewWeekly(await as("ops"), sent);
export const week = {
	nov2: file("deals 2026-11-02.csv", OVENS, MIXERS),
	nov9: file("deals 2026-11-09.csv", OVENS.replace("1200.50", "1300"), MIXERS, PROOFER),
	nov16: file("deals 2026-11-16.csv", OVENS.replace("2026-12-18", "2027-01-20").replace("1200.50", "1300"), PROOFER),
};
export const stored = async (id: string) => {
	const rows = await connection().db.select().from(dealVersions).where(eq(dealVersions.dealId, id)).orderBy(dealVersions.validFrom);
	return rows.map((row) => [row.validFrom.toISOString().slice(0, 10), row.stage, row.amount, row.closeDate, row.validTo?.toISOString().slice(0, 10) ?? null]);
};
export const everything = async () => Promise.all(["7", "8", "9"].map(stored));
