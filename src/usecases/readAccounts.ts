import { sql } from "drizzle-orm";
import { formatDay, isoOrNull, NO_DAY, parseDay, parts } from "../core/time/day";
import { plural } from "../core/time/words";
import { connection } from "../data/db";
import type { Context } from "./context";
import { ownerName } from "./readDeals";
import { demand, reaches } from "./rights";
import type { Sentence } from "./sentence";
import { surveyOn } from "./survey";

export interface AccountRow {
	readonly id: string;
	readonly name: string;
	readonly kind: string | null;
	readonly industry: string | null;
	readonly territory: string | null;
	readonly owner: string;
	readonly lastTouch: string | null;
	readonly lastKind: string | null;
	readonly lastWith: string | null;
	/** index of the band */
	readonly band: number;
	readonly open: readonly { readonly id: string; readonly name: string; readonly amount: number; readonly level: string }[];
	readonly openAmount: number;
	/** base minor units bought in this fiscal year and the one before */
	readonly thisYear: number;
	readonly lastYear: number;
}

export interface LostDeal {
	readonly id: string;
	readonly name: string;
	readonly account: string;
	readonly owner: string;
	readonly amount: number;
	readonly lostOn: string;
	readonly reason: string;
	readonly competitor: string;
	/** a day to come back that suggests itself */
	readonly suggested: string;
	/** the open task to come back, if there is one */
	readonly back: string | null;
}

export interface AccountsView {
	readonly bands: readonly string[];
	readonly accounts: readonly AccountRow[];
	readonly lost: readonly LostDeal[];
	readonly currency: string;
	/** how this year and the last are called */
	readonly years: readonly [string, string];
}

const LOST_WITHIN = 540;
const COME_BACK_AFTER = 182;

/** Accounts of the people of a sentence with their last contact, deals and purchases, seen on its day; lost deals with a way back. */
export async function readAccounts(context: Context, sentence: Sentence): Promise<AccountsView> {
	demand(context.actor, "readAccounts");
	const { memory } = context;
	const { company, contactBands } = memory;
	const { rules } = company;
	const day = sentence.seen.day;
	const { scope } = sentence.whose;
	const survey = surveyOn(company, day);
	const until = new Date(rules.zone.instantAt(day + 1, 0)).toISOString();
	const { db } = connection();
	const touches = await db.execute(sql`
		select distinct on (account) account, kind, at, contact from (
			select coalesce(a.account_id, d.account_id) as account, a.kind, a.id, (extract(epoch from a.at) * 1000)::float8 as at,
				(select c.name from contacts c where c.id = a.contact_ids[1]) as contact
			from activities a left join deals d on d.id = a.deal_id
			where a.state = 'done' and a.direction <> 'none' and a.at < ${until}
		) touches where account is not null order by account, at desc, id desc`);
	const last = new Map(
		touches.rows.map((row) => [
			String(row.account),
			{ day: rules.zone.dayOf(Number(row.at)), kind: String(row.kind), with: row.contact ? String(row.contact) : null },
		]),
	);
	const orders = await db.execute(sql`select account_id, date, amount, currency from orders where amount is not null and date <= ${formatDay(day)}`);
	const year = fiscalYear(day, rules.fiscalStart);
	const bought = new Map<string, [number, number]>();
	for (const order of orders.rows) {
		const ago = year - fiscalYear(parseDay(String(order.date)) ?? NO_DAY, rules.fiscalStart);
		if (ago !== 0 && ago !== 1) continue;
		const sums = bought.get(String(order.account_id)) ?? [0, 0];
		sums[ago] = (sums[ago] as number) + rules.rates.toBase(Number(order.amount), order.currency ? String(order.currency) : rules.rates.base, day);
		bought.set(String(order.account_id), sums);
	}

	const open = new Map<string, AccountRow["open"][number][]>();
	const own = new Set<string>();
	survey.deals.forEach((seen, deal) => {
		const name = memory.deals[deal];
		if (!seen || !name?.accountId || !reaches(scope, seen.owner)) return;
		own.add(name.accountId);
		if (seen.status !== "open") return;
		const list = open.get(name.accountId) ?? [];
		list.push({ id: name.id, name: name.name || "No name", amount: seen.amountBase, level: seen.attention.level });
		open.set(name.accountId, list);
	});
	const accounts = [...memory.accounts.values()]
		.filter((account) => scope === null || own.has(account.id) || reaches(scope, memory.personIndex.get(account.ownerId ?? "") ?? -1))
		.map((account): AccountRow => {
			const touch = last.get(account.id);
			const deals = (open.get(account.id) ?? []).sort((a, b) => b.amount - a.amount || (a.id < b.id ? -1 : 1));
			const [thisYear, lastYear] = bought.get(account.id) ?? [0, 0];
			return {
				id: account.id,
				name: account.name || "No name",
				kind: account.kind,
				industry: account.industry,
				territory: account.territory,
				owner: ownerName(memory, memory.personIndex.get(account.ownerId ?? "") ?? -1),
				lastTouch: touch ? formatDay(touch.day) : null,
				lastKind: touch?.kind ?? null,
				lastWith: touch?.with ?? null,
				band: touch ? bandOf(day - touch.day, contactBands) : contactBands.length + 1,
				open: deals,
				openAmount: deals.reduce((sum, deal) => sum + deal.amount, 0),
				thisYear,
				lastYear,
			};
		})
		.sort((a, b) => b.band - a.band || b.openAmount - a.openAmount || (a.id < b.id ? -1 : 1));
	return {
		bands: bandWords(contactBands),
		accounts,
		lost: await lostDeals(context, sentence),
		currency: rules.rates.base,
		years: [yearWords(year, rules.fiscalStart), yearWords(year - 1, rules.fiscalStart)],
	};
}

/** The band of a number of calendar days: the first whose upper end they don't pass. */
export function bandOf(days: number, bands: readonly number[]): number {
	const found = bands.findIndex((end) => days <= end);
	return found < 0 ? bands.length : found;
}

/** `to 14 days`, `15 to 42 days`, …, `longer`, `never`. */
export function bandWords(bands: readonly number[]): string[] {
	const words = bands.map((end, i) => (i === 0 ? `up to ${plural(end, "day")}` : `${(bands[i - 1] as number) + 1} to ${end} days`));
	return [...words, `over ${bands.at(-1)} days`, "never"];
}

function fiscalYear(day: number, start: number): number {
	const { year, month } = parts(day);
	return start > 1 && month >= start ? year + 1 : year;
}

const yearWords = (year: number, start: number) => (start > 1 ? `FY ${year}` : String(year));

async function lostDeals(context: Context, sentence: Sentence): Promise<LostDeal[]> {
	const { memory } = context;
	const { calendar } = memory.company.rules;
	const day = sentence.seen.day;
	const backs = await connection().db.execute(
		sql`select deal_id, min(due_on) as due from tasks where state = 'open' and due_on is not null and deal_id is not null group by deal_id`,
	);
	const due = new Map(backs.rows.map((row) => [String(row.deal_id), String(row.due)]));
	return surveyOn(memory.company, day)
		.deals.flatMap((seen, deal): LostDeal[] => {
			const name = memory.deals[deal];
			if (!name || seen?.status !== "lost" || !reaches(sentence.whose.scope, seen.owner) || day - seen.path.closedDay > LOST_WITHIN) return [];
			const wanted = calendar.add(Math.max(seen.path.closedDay + COME_BACK_AFTER, day + 7) - 1, 1);
			return [
				{
					id: name.id,
					name: name.name || "No name",
					account: memory.accounts.get(name.accountId ?? "")?.name || "No account",
					owner: ownerName(memory, seen.owner),
					amount: seen.amountBase,
					lostOn: isoOrNull(seen.path.closedDay) ?? "",
					reason: name.outcomeReason ?? "no reason given",
					competitor: name.competitor ?? "nobody named",
					suggested: formatDay(wanted),
					back: due.get(name.id) ?? null,
				},
			];
		})
		.sort((a, b) => b.amount - a.amount || (a.id < b.id ? -1 : 1));
}
