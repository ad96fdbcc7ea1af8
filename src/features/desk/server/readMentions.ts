import { and, desc, gt, sql } from "drizzle-orm";
import { surveyOn } from "@/core/survey";
import { type Day, formatDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { notes } from "@/data/schema";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { dealName, personName } from "@/platform/names";
import { reaches, reachOf } from "@/platform/reach";

export interface Mention {
	readonly id: string;
	readonly dealId: string;
	readonly deal: string;
	readonly by: string;
	readonly day: string;
	readonly body: string;
}

const DAYS_SHOWN = 30;

/** Notes of the last thirty days that call on the person, newest first. */
export const readMentions = query("desk.mentions", "readDesk", async (context: Context, day: Day): Promise<Mention[]> => {
	const { organisation, actor } = context;
	const { zone } = organisation.company.rules;
	const since = new Date(zone.instantAt(day - DAYS_SHOWN, 0));
	const rows = await connection()
		.db.select()
		.from(notes)
		.where(and(gt(notes.at, since), sql`${notes.mentions} @> array[${actor.person.id}]::text[]`))
		.orderBy(desc(notes.at));
	const reach = reachOf(organisation, actor);
	return rows.flatMap((note) => {
		const index = organisation.dealIndex.get(note.dealId) ?? -1;
		const seen = surveyOn(organisation.company, day).deals[index];
		const on = zone.dayOf(note.at.getTime());
		if (!seen || !reaches(reach, seen.owner) || on > day) return [];
		const by = personName(organisation, note.byId) ?? "Somebody";
		return [{ id: note.id, dealId: note.dealId, deal: dealName(organisation, index), by, day: formatDay(on), body: note.body }];
	});
});
