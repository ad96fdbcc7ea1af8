import type { Rest } from "@/core/attention/rest";
import type { DealFacts, QuoteFacts, Rules } from "@/core/company";
import { NO_ACTIVITIES, packActivities } from "@/core/contact/activities";
import type { Activity, Direction } from "@/core/contact/activity";
import { blockSpans, NONE } from "@/core/history/columns";
import { buyersOnce } from "@/core/people/buyers";
import type { Answer, Level } from "@/core/qualification/answer";
import { NO_ANSWERS, packAnswers } from "@/core/qualification/answers";
import { NO_DAY } from "@/core/time/day";
import type { Zone } from "@/core/time/zone";
import { versionsOf } from "./dealVersions";
import { type BuyerRow, buyersThrough, type Former } from "./former";
import type { DealRows } from "./readDealRows";
import { type DealAttributes, FORMER_OF_DEAL, type FormerOfDeal, type OrganisationState } from "./state";
import { dayIn, type Stored, text } from "./stored";
import { taskFacts } from "./taskFacts";

/** The slot of each question of any edition, by id. */
export const slotsOf = ({ editions }: Rules) =>
	new Map(editions.flatMap(({ questions }) => questions.map((question) => [question.id, question.slot] as const)));

/** Deals in the order of their rows, with versions that name them by that order. */
export function buildDeals(rows: DealRows, rules: Rules, reference: Pick<OrganisationState, "personIndex" | "accounts">) {
	const names = attributesOf(rows, rules.zone);
	const index = new Map(names.map((deal, i) => [deal.id, i]));
	return { names, facts: factsOf(rows, names, index, rules, reference), versions: versionsOf(rows.versions, index, rules, reference) };
}

/** Rows by their deal’s id. */
function byDeal(rows: readonly Stored[]): ReadonlyMap<string, readonly Stored[]> {
	const groups = new Map<string, Stored[]>();
	for (const row of rows) {
		const id = String(row.deal_id);
		const group = groups.get(id);
		if (group) group.push(row);
		else groups.set(id, [row]);
	}
	return groups;
}

function attributesOf(rows: DealRows, zone: Zone): DealAttributes[] {
	const [lines, former] = [byDeal(rows.lines), byDeal(rows.formerDeals)];
	return rows.deals.map((row): DealAttributes => {
		const id = String(row.id);
		const own = lines.get(id) ?? [];
		const distinct = (column: "product" | "family") => [...new Set(own.flatMap((line) => text(line[column]) ?? []))];
		const families = distinct("family");
		return {
			id,
			name: String(row.name),
			accountId: text(row.account_id),
			source: text(row.source),
			competitor: text(row.competitor),
			outcomeReason: text(row.outcome_reason),
			tags: row.tags as string[],
			products: distinct("product"),
			families,
			familyWorth: families.map((family) => own.reduce((sum, line) => sum + (line.family === family ? Number(line.worth) || 0 : 0), 0)),
			createdAt: Number(row.created_at),
			former: (former.get(id) ?? [])
				.filter(({ field }) => FORMER_OF_DEAL.some((one) => one === field))
				.map((one) => ({ day: zone.dayOf(Number(one.at)), field: one.field as FormerOfDeal, before: text(one.before) })),
		};
	});
}

function factsOf(
	rows: DealRows,
	names: readonly DealAttributes[],
	index: ReadonlyMap<string, number>,
	rules: Rules,
	reference: Pick<OrganisationState, "personIndex" | "accounts">,
): DealFacts[] {
	const { zone } = rules;
	const group = <T>(list: readonly Stored[], make: (row: Stored) => T): T[][] => {
		const groups: T[][] = names.map(() => []);
		for (const row of list) groups[index.get(String(row.deal_id)) ?? -1]?.push(make(row));
		return groups;
	};
	const slots = slotsOf(rules);
	const activities = packed(
		packActivities,
		group(inOrderOfIds(rows.activities), (row) => activityOf(row, zone, reference)),
	);
	const answers = packed(
		packAnswers,
		group(
			rows.answers,
			(row): Answer => ({
				question: slots.get(String(row.question_id)) ?? NONE,
				level: row.level as Level,
				at: Number(row.at),
				day: zone.dayOf(Number(row.at)),
			}),
		),
	);
	const tasks = group(rows.tasks, (row) => taskFacts(row, zone, reference));
	const people = group(rows.contacts, (row): BuyerRow => ({ contact: String(row.contact_id), role: text(row.buying_role) }));
	const former = group(rows.formerDeals, (row) => formerOf(row, String(row.field), zone));
	const formerRoles = group(rows.formerRoles, (row) => formerOf(row, "role", zone));
	const quotes = group(rows.quotes, quoteOf);
	const rests = group(rows.rests, (row) => restOf(row, reference));
	return names.map(
		(deal, i): DealFacts => ({
			id: deal.id,
			createdDay: zone.dayOf(deal.createdAt),
			hasAccountName: Boolean(deal.accountId && reference.accounts.get(deal.accountId)?.name.trim()),
			buyers: buyersOnce(buyersThrough(people[i] ?? [], [...(former[i] ?? []), ...(formerRoles[i] ?? [])])),
			activities: activities[i] ?? NO_ACTIVITIES,
			answers: answers[i] ?? NO_ANSWERS,
			tasks: tasks[i] ?? [],
			quotes: quotes[i] ?? [],
			rests: rests[i] ?? [],
		}),
	);
}

const inOrderOfIds = (rows: readonly Stored[]) => rows.toSorted((a, b) => (String(a.id) < String(b.id) ? -1 : 1));

/** Lists of deals in columns that the deals of a block share, so that no block keeps another's. */
const packed = <T, P>(pack: (lists: readonly T[][]) => P[], lists: readonly T[][]): P[] =>
	[...blockSpans(lists.length)].flatMap(([first, end]) => pack(lists.slice(first, end)));

function activityOf(row: Stored, zone: Zone, { personIndex }: Pick<OrganisationState, "personIndex">): Activity {
	const dayAt = (at: unknown) => (at === null || at === undefined ? NO_DAY : zone.dayOf(Number(at)));
	return {
		kind: String(row.kind),
		direction: row.direction as Direction,
		state: row.state as Activity["state"],
		at: Number(row.at),
		day: zone.dayOf(Number(row.at)),
		contacts: row.contact_ids as string[],
		recorded: dayAt(row.recorded_at),
		plannedFor: dayAt(row.planned_for),
		settled: dayAt(row.settled_at),
		by: personIndex.get(String(row.by_id)) ?? NONE,
	};
}

const formerOf = (row: Stored, field: string, zone: Zone): Former => ({
	day: zone.dayOf(Number(row.at)),
	contact: text(row.contact_id),
	field,
	before: text(row.before),
	role: text(row.buying_role),
});

const quoteOf = (row: Stored): QuoteFacts => ({
	id: String(row.id),
	number: text(row.number),
	sent: dayIn(row.sent_on),
	validUntil: dayIn(row.valid_until),
	answered: dayIn(row.answered_on),
});

const restOf = (row: Stored, { personIndex }: Pick<OrganisationState, "personIndex">): Rest => ({
	id: String(row.id),
	from: dayIn(row.from_day),
	until: dayIn(row.until_day),
	ended: dayIn(row.ended_on),
	flags: row.flags as string[],
	by: personIndex.get(String(row.by_id)) ?? NONE,
	reason: String(row.reason),
});
