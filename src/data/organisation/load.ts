import { type SQL, sql } from "drizzle-orm";
import type { Rest } from "@/core/attention/rest";
import type { DealFacts, QuoteFacts, Rules } from "@/core/company";
import type { Activity, Direction } from "@/core/contact/contact";
import type { DataKind } from "@/core/flags/settings";
import { CATEGORIES, makeHistory, NONE, REMOVED, type VersionRow } from "@/core/history/columns";
import { rankStages, type StageKind } from "@/core/history/stage";
import { parseDecimal } from "@/core/money/decimal";
import { makeRates } from "@/core/money/rates";
import type { FocusTarget } from "@/core/period/target";
import type { Answer, Level } from "@/core/qualification/score";
import type { TaskFacts, TaskState, TaskWas } from "@/core/tasks/task";
import { makeCalendar } from "@/core/time/calendar";
import { type Day, NO_DAY, parseDay } from "@/core/time/day";
import { makeZone, type Zone } from "@/core/time/zone";
import type { Sql } from "../db";
import { organisationSettings, STANDARD_BANDS, STANDARD_GOAL, type TaskBefore } from "../schema";
import { readEditions } from "./editions";
import { type BuyerRow, buyersThrough, type Former } from "./former";
import type { Account, DealAttributes, Mark, OrganisationState, Person, Role } from "./state";

type Stored = Record<string, unknown>;
const dayIn = (value: unknown): Day => (typeof value === "string" ? (parseDay(value) ?? NO_DAY) : NO_DAY);
const text = (value: unknown): string | null => (typeof value === "string" && value ? value : null);

/** Rows of the tables that speak of deals, for some deals or (null) for all. */
export async function readDealRows(db: Sql, dealIds: readonly string[] | null) {
	const only = (column: string) =>
		dealIds ? sql`where ${sql.identifier(column)} in (select json_array_elements_text(${JSON.stringify(dealIds)}::json))` : sql``;
	const ms = (column: string) => sql`(extract(epoch from ${sql.identifier(column)}) * 1000)::float8 as ${sql.identifier(column)}`;
	const tables = {
		deals: sql`select id, account_id, name, source, ${ms("created_at")}, competitor, outcome_reason, tags from deals ${only("id")} order by id collate "C"`,
		versions: sql`select id, deal_id, ${ms("valid_from")}, stage, amount, currency, close_date, owner_id, category, next_step, next_step_date from deal_versions ${only("deal_id")}`,
		contacts: sql`select d.deal_id, d.contact_id, coalesce(d.buying_role, c.buying_role) as buying_role from deal_contacts d join contacts c on c.id = d.contact_id ${only("deal_id")}`,
		formerDeals: sql`select f.deal_id, f.contact_id, f.field, f.before, ${ms("at")}, c.buying_role from former_facts f left join contacts c on c.id = f.contact_id ${dealIds ? only("deal_id") : sql`where f.deal_id is not null`} order by f.at desc, f.id desc`,
		formerRoles: sql`select distinct d.deal_id, f.contact_id, f.before, ${ms("at")}, f.id from former_facts f join (select deal_id, contact_id from deal_contacts union select deal_id, contact_id from former_facts where field = 'on_deal') d on d.contact_id = f.contact_id ${dealIds ? sql`where f.field = 'role' and f.deal_id is null and d.deal_id in (select json_array_elements_text(${JSON.stringify(dealIds)}::json))` : sql`where f.field = 'role' and f.deal_id is null`} order by 4 desc, f.id desc`,
		lines: sql`select deal_id, product, family, (quantity * unit_price)::float8 as worth from deal_lines ${only("deal_id")} order by deal_id, ordinal`,
		rests: sql`select id, deal_id, from_day, until_day, ended_on, flags, by_id, reason from rests where state = 'given' ${dealIds ? sql`and deal_id in (select json_array_elements_text(${JSON.stringify(dealIds)}::json))` : sql``} order by from_day, id`,
		quotes: sql`select id, deal_id, number, sent_on, valid_until, answered_on from quotes ${only("deal_id")}`,
		activities: sql`select id, deal_id, kind, direction, state, contact_ids, ${ms("at")}, ${ms("recorded_at")}, ${ms("planned_for")}, ${ms("settled_at")} from activities ${dealIds ? only("deal_id") : sql`where deal_id is not null`}`,
		answers: sql`select deal_id, question_id, level, ${ms("at")} from answers ${only("deal_id")}`,
		tasks: sql`select ${TASK_COLUMNS}, ${ms("created_at")}, ${ms("done_at")}, ${FORMER} from tasks ${dealIds ? only("deal_id") : sql`where deal_id is not null`}`,
	};
	return dealIds ? readTogether(db, tables) : readEach(db, tables);
}

const TASK_COLUMNS = sql.raw("id, deal_id, assignee_id, team, due_on, state, flags");
/** How a task stood before each of its changes, the first first; null where there was none. */
const FORMER = sql.raw(
	"(select json_agg(json_build_object('at', (extract(epoch from c.at) * 1000)::float8, 'before', c.before) order by c.at, c.id) from task_changes c where c.task_id = tasks.id) as former",
);

/** One table after another: they are long. */
async function readEach<N extends string>(db: Sql, tables: Readonly<Record<N, SQL>>): Promise<Record<N, Stored[]>> {
	const read = {} as Record<N, Stored[]>;
	for (const name of Object.keys(tables) as N[]) read[name] = (await db.execute(tables[name])).rows as Stored[];
	return read;
}

/** A few rows of each table by one statement: after every write every process asks for them. */
async function readTogether<N extends string>(db: Sql, tables: Readonly<Record<N, SQL>>): Promise<Record<N, Stored[]>> {
	const names = Object.keys(tables) as N[];
	const parts = names.map((name) => sql`select ${name}::text as name, (select coalesce(json_agg(one), '[]') from (${tables[name]}) one) as rows`);
	const { rows } = await db.execute(sql.join(parts, sql` union all `));
	return Object.fromEntries((rows as { name: string; rows: Stored[] }[]).map((row) => [row.name, row.rows])) as Record<N, Stored[]>;
}
export type DealRows = Awaited<ReturnType<typeof readDealRows>>;

/** The marks, the oldest first. */
export async function readMarks(db: Sql, zone: Zone): Promise<Mark[]> {
	const { rows } = await db.execute(sql`select (extract(epoch from at) * 1000)::float8 as at, name, by_id, seal, newest from marks order by at, name`);
	return (rows as Stored[]).map((row) => ({
		at: Number(row.at),
		day: zone.dayOf(Number(row.at)),
		name: String(row.name),
		byId: text(row.by_id),
		seal: row.seal ? ({ ...(row.seal as object), newest: Number(row.newest ?? 0) } as Mark["seal"]) : null,
	}));
}

/**
 * Kinds of data that there are none of at all where all that is known comes from weekly files, which can't hold them:
 * there a rule that misses them would light every deal. Who sends a bundle is judged by what is in it.
 */
async function absentKinds(db: Sql): Promise<ReadonlySet<DataKind>> {
	const { rows } = await db.execute(sql`
		select exists (select from weekly_files) and not exists (select from imports where state = 'done') as weekly, not exists (select from activities) as activities,
			not exists (select from deal_contacts) as contacts, not exists (select from questions) as questions`);
	const [row] = rows as Record<DataKind | "weekly", boolean>[];
	const kinds: readonly DataKind[] = ["activities", "contacts", "questions"];
	return new Set(row?.weekly ? kinds.filter((kind) => row[kind]) : []);
}

/** All but the deals: the rules, and what names and settings there are beside them. */
export async function readFrame(db: Sql) {
	const all = async (query: ReturnType<typeof sql>) => (await db.execute(query)).rows as Stored[];
	const [org] = await db.select().from(organisationSettings);
	const zone = makeZone(org?.timeZone ?? "Europe/Berlin");
	const people = (await all(sql`select id, name, email, also, role, team, active_from, active_to from people order by id collate "C"`)).map(
		(row): Person => ({
			id: String(row.id),
			name: String(row.name),
			email: text(row.email),
			also: row.also as string[],
			role: row.role as Role,
			team: text(row.team),
			activeFrom: dayIn(row.active_from),
			activeTo: dayIn(row.active_to),
		}),
	);
	const stageRows = await all(sql`select name, kind, probability, usual_days from stages order by position`);
	const framework = await readEditions(db, zone);
	const rateRows = await all(sql`select currency, date, rate from rates`);
	const currencyRows = await all(sql`select distinct currency from deal_versions where currency is not null order by 1`);
	const holidayRows = await all(sql`select date from holidays`);
	const teamRows = await all(sql`select name, parent from teams order by name`);
	const accountRows = await all(sql`select id, name, kind, industry, territory, owner_id from accounts`);
	const absent = await absentKinds(db);
	const undecidedRows = await all(sql`select distinct deal_id from weekly_missing where decision is null`);
	const looseTaskRows = await all(
		sql`select ${TASK_COLUMNS}, (extract(epoch from created_at) * 1000)::float8 as created_at, (extract(epoch from done_at) * 1000)::float8 as done_at, ${FORMER} from tasks where deal_id is null`,
	);
	const personIndex = new Map(people.map((person, i) => [person.id, i]));
	const targetRows = (await all(sql`select person_id, period_start, period_end, amount, currency, family from targets`)).flatMap((row): FocusTarget[] => {
		const person = personIndex.get(String(row.person_id));
		if (person === undefined) return [];
		const [start, end] = [dayIn(row.period_start), dayIn(row.period_end)];
		return [{ person, start, end, amount: Number(row.amount), currency: String(row.currency), family: String(row.family) }];
	});
	const decimal = (value: unknown) => parseDecimal(String(value)) ?? { units: 0, scale: 0 };

	const rules: Rules = {
		absent,
		zone,
		calendar: makeCalendar(
			org?.weekend ?? [0, 6],
			holidayRows.map((row) => dayIn(row.date)),
		),
		fiscalStart: org?.fiscalStartMonth ?? 1,
		rates: makeRates(
			org?.baseCurrency ?? "EUR",
			rateRows.map((row) => ({ currency: String(row.currency), day: dayIn(row.date), rate: decimal(row.rate) })),
		),
		stages: rankStages(
			stageRows.map((row) => ({
				name: String(row.name),
				kind: row.kind as StageKind,
				probability: decimal(row.probability),
				usualDays: Number(row.usual_days),
			})),
		),
		currencies: currencyRows.map((row) => String(row.currency)),
		editions: framework.editions,
		kindPositions: Object.fromEntries(Object.entries(org?.activityKinds ?? {}).map(([kind, of]) => [kind, of.stagePosition ?? 0])),
		flags: org?.flags ?? {},
		attention: org?.attention ?? {},
		attentionWas: (org?.attentionWas ?? []).map(({ until, set }) => ({ until: parseDay(until) ?? NO_DAY, set })),
	};
	const kinds = new Set(["call", "meeting", "visit", "demo", "email", "message", "note", ...Object.keys(org?.activityKinds ?? {})]);
	const frame = {
		people,
		personIndex,
		targets: targetRows.filter(({ family }) => !family),
		focusTargets: targetRows.filter(({ family }) => family),
		looseTasks: looseTaskRows.map((row) => taskFacts(row, zone, { personIndex })),
		teams: new Map(teamRows.map((row) => [String(row.name), text(row.parent)])),
		accounts: new Map(
			accountRows.map((row): [string, Account] => [
				String(row.id),
				{
					id: String(row.id),
					name: String(row.name),
					kind: text(row.kind),
					industry: text(row.industry),
					territory: text(row.territory),
					ownerId: text(row.owner_id),
				},
			]),
		),
		marks: await readMarks(db, zone),
		activityKinds: [...kinds],
		undecided: new Set(undecidedRows.map((row) => String(row.deal_id))),
		heldToday: org?.today ? parseDay(org.today) : null,
		outcomeReasons: org?.outcomeReasons ?? [],
		contactBands: org?.contactBands ?? STANDARD_BANDS,
		commitGoal: org?.commitGoal ?? STANDARD_GOAL,
		reasonReturns: org?.reasonReturns ?? {},
		questionHelp: framework.help,
	};
	return { rules, frame };
}
export type Frame = Awaited<ReturnType<typeof readFrame>>;

/** The slot of each question of any edition, by id. */
export const slotsOf = ({ editions }: Rules) =>
	new Map(editions.flatMap(({ questions }) => questions.map((question) => [question.id, question.slot] as const)));

/** Reads the whole organisation, row by row. */
export async function loadOrganisation(db: Sql, revision: number, frame?: Frame): Promise<OrganisationState> {
	return withDeals(frame ?? (await readFrame(db)), await readDealRows(db, null), revision);
}

function withDeals({ rules, frame }: Frame, rows: DealRows, revision: number): OrganisationState {
	const built = buildDeals(rows, rules, frame);
	return {
		...frame,
		revision,
		deals: built.names,
		dealIndex: new Map(built.names.map((deal, i) => [deal.id, i])),
		company: { rules, deals: built.facts, people: frame.people, history: makeHistory(built.names.length, built.versions, rules.zone) },
	};
}

function taskFacts(row: Stored, zone: Zone, { personIndex }: Pick<OrganisationState, "personIndex">): TaskFacts {
	return {
		id: String(row.id),
		assignee: personIndex.get(String(row.assignee_id)) ?? NONE,
		team: text(row.team),
		flags: row.flags as string[],
		createdDay: zone.dayOf(Number(row.created_at)),
		due: dayIn(row.due_on),
		state: row.state as TaskState,
		doneDay: row.done_at === null ? NO_DAY : zone.dayOf(Number(row.done_at)),
		doneAt: row.done_at === null ? Number.NaN : Number(row.done_at),
		former: ((row.former ?? []) as FormerTask[]).map(
			({ at, before }): TaskWas => ({
				until: zone.dayOf(at),
				assignee: personIndex.get(before.assigneeId ?? "") ?? NONE,
				team: before.team,
				due: dayIn(before.dueOn),
				state: before.state as TaskState,
				doneDay: before.doneAt === null ? NO_DAY : zone.dayOf(Date.parse(before.doneAt)),
				doneAt: before.doneAt === null ? Number.NaN : Date.parse(before.doneAt),
				note: before.note,
			}),
		),
	};
}

interface FormerTask {
	readonly at: number;
	readonly before: TaskBefore;
}

/** Deals in the order of their rows, with versions that name them by that order. */
export function buildDeals(rows: DealRows, rules: Rules, frame: Pick<OrganisationState, "personIndex" | "accounts">) {
	const lines = new Map<string, Stored[]>();
	for (const row of rows.lines) lines.set(String(row.deal_id), [...(lines.get(String(row.deal_id)) ?? []), row]);
	const distinct = (id: string, column: "product" | "family") => [...new Set((lines.get(id) ?? []).flatMap((row) => text(row[column]) ?? []))];
	const formerly = new Map<string, Stored[]>();
	for (const row of rows.formerDeals) formerly.set(String(row.deal_id), [...(formerly.get(String(row.deal_id)) ?? []), row]);
	const names = rows.deals.map(
		(row): DealAttributes => ({
			id: String(row.id),
			name: String(row.name),
			accountId: text(row.account_id),
			source: text(row.source),
			competitor: text(row.competitor),
			outcomeReason: text(row.outcome_reason),
			tags: row.tags as string[],
			products: distinct(String(row.id), "product"),
			families: distinct(String(row.id), "family"),
			familyWorth: distinct(String(row.id), "family").map((family) =>
				(lines.get(String(row.id)) ?? []).reduce((sum, line) => sum + (line.family === family ? Number(line.worth) || 0 : 0), 0),
			),
			createdAt: Number(row.created_at),
			former: (formerly.get(String(row.id)) ?? [])
				.filter(({ field }) => field === "competitor" || field === "outcome_reason")
				.map((one) => ({ day: rules.zone.dayOf(Number(one.at)), field: one.field as "competitor" | "outcome_reason", before: text(one.before) })),
		}),
	);
	const index = new Map(names.map((deal, i) => [deal.id, i]));
	const group = <T>(list: readonly Stored[], make: (row: Stored) => T): T[][] => {
		const groups: T[][] = names.map(() => []);
		for (const row of list) groups[index.get(String(row.deal_id)) ?? -1]?.push(make(row));
		return groups;
	};
	const { zone } = rules;
	const dayAt = (at: unknown) => (at === null || at === undefined ? NO_DAY : zone.dayOf(Number(at)));
	const slots = slotsOf(rules);
	const activities = group(
		rows.activities,
		(row): Activity => ({
			id: String(row.id),
			kind: String(row.kind),
			direction: row.direction as Direction,
			state: row.state as Activity["state"],
			at: Number(row.at),
			day: zone.dayOf(Number(row.at)),
			contacts: row.contact_ids as string[],
			recorded: dayAt(row.recorded_at),
			plannedFor: dayAt(row.planned_for),
			settled: dayAt(row.settled_at),
		}),
	);
	const answers = group(
		rows.answers,
		(row): Answer => ({
			question: slots.get(String(row.question_id)) ?? NONE,
			level: row.level as Level,
			at: Number(row.at),
			day: zone.dayOf(Number(row.at)),
		}),
	);
	const tasks = group(rows.tasks, (row) => taskFacts(row, zone, frame));
	const people = group(rows.contacts, (row): BuyerRow => ({ contact: String(row.contact_id), role: text(row.buying_role) }));
	const formerOf =
		(field: string | null) =>
		(row: Stored): Former => ({
			day: zone.dayOf(Number(row.at)),
			contact: text(row.contact_id),
			field: field ?? String(row.field),
			before: text(row.before),
			role: text(row.buying_role),
		});
	const former = group(rows.formerDeals, formerOf(null));
	const formerRoles = group(rows.formerRoles, formerOf("role"));
	const quotes = group(
		rows.quotes,
		(row): QuoteFacts => ({
			id: String(row.id),
			number: text(row.number),
			sent: dayIn(row.sent_on),
			validUntil: dayIn(row.valid_until),
			answered: dayIn(row.answered_on),
		}),
	);
	const rests = group(
		rows.rests,
		(row): Rest => ({
			id: String(row.id),
			from: dayIn(row.from_day),
			until: dayIn(row.until_day),
			ended: dayIn(row.ended_on),
			flags: row.flags as string[],
			by: frame.personIndex.get(String(row.by_id)) ?? NONE,
			reason: String(row.reason),
		}),
	);
	const facts = names.map(
		(deal, i): DealFacts => ({
			id: deal.id,
			createdDay: zone.dayOf(deal.createdAt),
			hasAccountName: Boolean(deal.accountId && frame.accounts.get(deal.accountId)?.name.trim()),
			buyers: buyersThrough(people[i] ?? [], [...(former[i] ?? []), ...(formerRoles[i] ?? [])]),
			activities: activities[i] ?? [],
			answers: answers[i] ?? [],
			tasks: tasks[i] ?? [],
			quotes: quotes[i] ?? [],
			rests: rests[i] ?? [],
		}),
	);
	const stageIndex = new Map(rules.stages.map((stage, i) => [stage.name, i]));
	const currencyIndex = new Map(rules.currencies.map((code, i) => [code, i]));
	const versions = rows.versions.map(
		(row): VersionRow => ({
			deal: index.get(String(row.deal_id)) ?? NONE,
			at: Number(row.valid_from),
			stage: row.stage === null ? REMOVED : (stageIndex.get(String(row.stage)) ?? REMOVED),
			amount: row.amount === null ? Number.NaN : Number(row.amount),
			currency: currencyIndex.get(String(row.currency)) ?? NONE,
			close: dayIn(row.close_date),
			owner: frame.personIndex.get(String(row.owner_id)) ?? NONE,
			category: CATEGORIES.indexOf(row.category as never),
			nextStepDay: dayIn(row.next_step_date),
			nextStep: text(row.next_step) ?? "",
			id: Number(row.id),
		}),
	);
	return { names, facts, versions };
}
