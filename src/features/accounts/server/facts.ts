import { sql } from "drizzle-orm";
import { type AccountTouch, isLookedAt, LOOKS_BACK } from "@/core/accounts/touch";
import type { DealBlock } from "@/core/company";
import { contactsAt, isTouchAt } from "@/core/contact/activities";
import { DIRECTIONS } from "@/core/contact/activity";
import { derive, keyOf } from "@/core/derive";
import type { Day } from "@/core/time/day";
import type { Zone } from "@/core/time/zone";
import { connection } from "@/data/db";
import { identityOn } from "@/data/organisation/former";
import type { OrganisationState } from "@/data/organisation/state";
import { contacts } from "@/data/schema";

/** The last contact with an account. */
export interface Touch {
	readonly day: Day;
	readonly kind: string;
	readonly direction: AccountTouch["direction"];
	readonly at: number;
	/** null where it belongs to none */
	readonly deal: string | null;
	/** with whom, by id */
	readonly contact: string | null;
}

/** The newest touch of each account in the 365 days up to one. What belongs to no deal is read once until an import brings more of it. */
export async function lastTouches(organisation: OrganisationState, day: Day): Promise<ReadonlyMap<string, Touch>> {
	const dealless = await derive(organisation.accounts, "touches of no deal", String(day), () => touchesOfNoDeal(organisation, day));
	return derive(organisation.company, "last touches", keyOf(day, dealless), () => touchesWith(organisation, dealless, day));
}

async function touchesWith(organisation: OrganisationState, dealless: ReadonlyMap<string, Touch>, day: Day): Promise<ReadonlyMap<string, Touch>> {
	const all = newest(dealless);
	for (const block of organisation.company.blocks) {
		const { last, tied } = derive(block, "last touches", day, () => touchesIn(organisation, block, day));
		for (const [account, touch] of last) all.meet(account, touch, tied.has(account));
	}
	const settled = await touchesAt(organisation, day, new Map([...all.tied].map((account) => [account, all.last.get(account)?.at as number])));
	for (const [account, touch] of settled) all.last.set(account, touch);
	return all.last;
}

/**
 * The newest touch of each account so far. Activities of several deals at one instant are tied: their ids, which settle
 * which is the last, are not kept in memory.
 */
function newest(from: ReadonlyMap<string, Touch> = new Map()) {
	const last = new Map(from);
	const tied = new Set<string>();
	return {
		last,
		tied,
		meet(account: string, touch: Touch, isTied: boolean): void {
			const known = last.get(account);
			if (known && known.at > touch.at) return;
			if (isTied || (known?.at === touch.at && known.deal !== touch.deal)) tied.add(account);
			else if (known && known.at < touch.at) tied.delete(account);
			last.set(account, touch);
		},
	};
}

/** The newest touches that the activities of a block’s deals say up to a day. */
function touchesIn(organisation: OrganisationState, { first, facts }: DealBlock, day: Day): Pick<ReturnType<typeof newest>, "last" | "tied"> {
	const { last, tied, meet } = newest();
	facts.forEach(({ id: deal, activities: { columns, from, end } }, place) => {
		const attributes = organisation.deals[first + place];
		const account = attributes && identityOn(attributes, day).accountId;
		if (!account) return;
		for (let row = from; row < end; row++) {
			const at = columns.at[row] as number;
			if ((last.get(account)?.at ?? Number.NEGATIVE_INFINITY) > at || !isLookedAt(columns.day[row] as Day, day) || !isTouchAt(columns, row)) continue;
			if ((columns.recorded[row] as Day) > day || (columns.settled[row] as Day) > day) continue;
			const kind = columns.kinds[columns.kind[row] as number] as string;
			const direction = DIRECTIONS[columns.direction[row] as number] as AccountTouch["direction"];
			meet(account, { day: columns.day[row] as Day, kind, direction, at, deal, contact: contactsAt(columns, row)[0] ?? null }, false);
		}
	});
	return { last, tied };
}

/** Of each account the touch at an instant with the highest id. */
async function touchesAt({ company }: OrganisationState, day: Day, instants: ReadonlyMap<string, number>): Promise<Map<string, Touch>> {
	if (!instants.size) return new Map();
	const asked = JSON.stringify([...instants].map(([account, at]) => ({ account, at: new Date(at).toISOString() })));
	const { rows } = await connection().db.execute(sql`
		select distinct on (w.account) w.account as account_id, a.kind, a.direction, a.deal_id, (extract(epoch from a.at) * 1000)::float8 as at, a.contact_ids[1] as contact
		from json_to_recordset(${asked}::json) as w(account text, at timestamptz)
		left join deals d on d.account_id = w.account
		join activities a on (a.deal_id = d.id or (a.deal_id is null and a.account_id = w.account)) and a.at = w.at
		where a.state = 'done' and a.direction <> 'none' and ${knownBy(company.rules.zone, day)}
		order by w.account, a.id collate "C" desc`);
	return touchesOf(rows, company.rules.zone);
}

/** Written down, and if it was planned said to be done, by the end of a day. */
export function knownBy(zone: Zone, day: Day) {
	const until = new Date(zone.instantAt(day + 1, 0)).toISOString();
	return sql`(a.recorded_at is null or a.recorded_at < ${until}) and (a.settled_at is null or a.settled_at < ${until})`;
}

async function touchesOfNoDeal({ company }: OrganisationState, day: Day): Promise<Map<string, Touch>> {
	const { zone } = company.rules;
	const [from, until] = [day - LOOKS_BACK + 1, day + 1].map((one) => new Date(zone.instantAt(one, 0)).toISOString());
	const { rows } = await connection().db.execute(sql`
		select distinct on (account_id) account_id, deal_id, kind, direction, (extract(epoch from at) * 1000)::float8 as at, contact_ids[1] as contact from activities a
		where deal_id is null and account_id is not null and state = 'done' and direction <> 'none' and at >= ${from} and at < ${until} and ${knownBy(zone, day)}
		order by account_id, a.at desc, id collate "C" desc`);
	return touchesOf(rows, zone);
}

const touchesOf = (rows: readonly Record<string, unknown>[], zone: Zone) =>
	new Map(
		rows.map((row): [string, Touch] => {
			const at = Number(row.at);
			return [
				String(row.account_id),
				{
					day: zone.dayOf(at),
					kind: String(row.kind),
					direction: row.direction as Touch["direction"],
					at,
					deal: row.deal_id ? String(row.deal_id) : null,
					contact: row.contact ? String(row.contact) : null,
				},
			];
		}),
	);

/** Names of some contacts, by id. */
export async function contactNames(ids: readonly string[]): Promise<Map<string, string>> {
	if (!ids.length) return new Map();
	const rows = await connection()
		.db.select({ id: contacts.id, name: contacts.name })
		.from(contacts)
		// One parameter, however many there are: thousands of them take the query longer to write than to answer.
		.where(sql`${contacts.id} = any(${sql.param([...ids])})`);
	return new Map(rows.map((row) => [row.id, row.name]));
}
