import { and, eq } from "drizzle-orm";
import { type Day, formatDay } from "@/core/time/day";
import { formatRange, type Period, quarterOf } from "@/core/time/period";
import { periodWords } from "@/core/time/words";
import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import type { OrganisationState } from "@/data/organisation/state";
import { closes } from "@/data/schema";
import { clock } from "@/platform/clock";
import { contextFor } from "@/platform/context";
import { firstKnown } from "@/platform/firstKnown";
import { reachOf } from "@/platform/reach";
import { systemWrite } from "@/platform/write";
import { accountOf } from "./account";
import { sealed } from "./closePeriod";
import { closable } from "./stored";

/** so many working days a manager has for closing a period; then it closes by itself */
const GRACE = 5;

/** The quarter that closes by itself on a day; null while there is time, or where nothing is known of it. */
export function closesByItself(organisation: OrganisationState, day: Day): Period | null {
	const { calendar, fiscal } = organisation.company.rules;
	const last = quarterOf(quarterOf(day, fiscal).start - 1, fiscal);
	if (!organisation.dealIndex.size || firstKnown(organisation) > last.start) return null;
	return calendar.between(last.end, day) > GRACE ? last : null;
}

/** Whose periods somebody leads, as a sentence says it: everyone’s, or their team’s. */
const ledBy = (organisation: OrganisationState, personId: string): string | null => {
	const index = organisation.personIndex.get(personId);
	const person = index === undefined ? undefined : organisation.people[index];
	if (index === undefined || person?.role !== "manager" || !person.team) return null;
	return reachOf(organisation, { person, index }) === null ? "all" : `team:${person.team}`;
};

/** Closes the last quarter for everyone whose leader hasn’t; doing it again changes nothing. Gives what was closed. */
export async function closeByItself(): Promise<string[]> {
	const { db } = connection();
	const organisation = await currentOrganisation(db);
	const period = closesByItself(organisation, clock(organisation).day);
	if (!period) return [];
	const [start, end] = [formatDay(period.start), formatDay(period.end)];
	// What was reopened waits for somebody who closes it.
	const rows = await db
		.select({ whose: closes.whose })
		.from(closes)
		.where(and(eq(closes.start, start), eq(closes.end, end)));
	const closed = new Set(rows.map(({ whose }) => whose));
	const done: string[] = [];
	for (const { id } of organisation.people) {
		const whose = ledBy(organisation, id);
		if (!whose || closed.has(whose)) continue;
		closed.add(whose);
		const context = await contextFor(id);
		const scope = context ? closable(context, whose) : undefined;
		if (!context || scope === undefined) continue;
		const account = await accountOf(context, period, scope);
		const row = sealed(context, { whose, start, end, correction: 0, byId: null, why: null, note: "" }, account);
		const made = await systemWrite(async (tx) => {
			const rows = await tx.insert(closes).values(row).onConflictDoNothing().returning({ id: closes.id });
			return rows.length
				? {
						result: true,
						touched: "nothing",
						audit: { action: "period closed", subject: row.id, detail: { period: periodWords(period), whose, won: account.won.amount, by: "itself" } },
					}
				: { result: false, touched: "nothing", audit: [] };
		});
		if (made) done.push(`${whose} ${formatRange(period)}`);
	}
	return done;
}
