import { sql } from "drizzle-orm";
import { tiesOf } from "@/core/accounts/ties";
import { type AccountTouch, LOOKS_BACK } from "@/core/accounts/touch";
import { NONE } from "@/core/history/columns";
import { worksOn } from "@/core/people/person";
import type { Day } from "@/core/time/day";
import { connection } from "@/data/db";
import type { OrganisationState } from "@/data/organisation/state";
import type { Context } from "@/platform/context";
import { knownBy } from "./facts";

/** The touches of the last 365 days, as known on a day, in which any of some people of theirs took part, whosever deal they were about. */
export async function touchesWith({ company, personIndex }: OrganisationState, contacts: readonly string[], day: Day): Promise<AccountTouch[]> {
	if (!contacts.length) return [];
	const { zone } = company.rules;
	const [from, until] = [day - LOOKS_BACK + 1, day + 1].map((one) => new Date(zone.instantAt(one, 0)).toISOString());
	const { rows } = await connection().db.execute(sql`
		select a.id, (extract(epoch from a.at) * 1000)::float8 as at, a.kind, a.direction, a.by_id, a.contact_ids from activities a
		where a.contact_ids && ${sql.param([...contacts])}::text[] and a.state = 'done' and a.direction <> 'none'
			and a.at >= ${from} and a.at < ${until} and ${knownBy(zone, day)}`);
	return rows.map((row) => ({
		id: String(row.id),
		at: Number(row.at),
		day: zone.dayOf(Number(row.at)),
		kind: String(row.kind),
		direction: row.direction as AccountTouch["direction"],
		by: personIndex.get(String(row.by_id ?? "")) ?? NONE,
		contacts: row.contact_ids as string[],
	}));
}

/** Whether anybody of ours who works here has a tie to one of some people of theirs. */
export async function anybodyKnows({ organisation }: Context, contacts: readonly string[], day: Day): Promise<boolean> {
	const { company, people } = organisation;
	const ties = tiesOf(await touchesWith(organisation, contacts, day), { day, calendar: company.rules.calendar });
	return ties.some(({ contact, person }) => contacts.includes(contact) && people[person] && worksOn(people[person], day));
}
