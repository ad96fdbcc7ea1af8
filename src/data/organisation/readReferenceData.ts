import { createHash } from "node:crypto";
import { type SQL, sql } from "drizzle-orm";
import type { Rules } from "@/core/company";
import type { DataKind } from "@/core/flags/settings";
import { rankStages, type StageKind } from "@/core/history/stage";
import { parseDecimal } from "@/core/money/decimal";
import { makeRates } from "@/core/money/rates";
import type { FocusTarget } from "@/core/period/target";
import type { TaskFacts } from "@/core/tasks/task";
import { makeCalendar } from "@/core/time/calendar";
import { NO_DAY, parseDay } from "@/core/time/day";
import { fiscalOf } from "@/core/time/fiscal";
import { makeZone, type Zone } from "@/core/time/zone";
import type { Sql } from "../db";
import { organisationSettings, STANDARD_BANDS, STANDARD_CARE, STANDARD_GOAL, STANDARD_RISK_SHARE } from "../schema";
import { readEditions } from "./editions";
import { FORMER, TASK_COLUMNS } from "./readDealRows";
import type { Account, FormerOfAccount, Mark, Person, Role } from "./state";
import { dayIn, type Stored, text } from "./stored";
import { taskFacts } from "./taskFacts";

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

/** What was read before, so that what reads the same stays the same object, with all that was worked out by it. */
export type ReadBefore = { readonly rules: Rules; readonly people: readonly Person[]; readonly accounts: ReadonlyMap<string, Account> };

/** What each object was made of, as a hash. */
const sources = new WeakMap<object, string>();

/** An object made of what was read, or the one before where that read the same. */
function same<T extends object>(source: unknown, before: T | undefined, make: () => T): T {
	const hash = createHash("sha1").update(JSON.stringify(source)).digest("base64");
	if (before && sources.get(before) === hash) return before;
	const made = make();
	sources.set(made, hash);
	return made;
}

/** All but the deals: the rules, and what names and settings there are beside them. */
export async function readReferenceData(db: Sql, before?: ReadBefore) {
	const [org] = await db.select().from(organisationSettings);
	const zone = makeZone(org?.timeZone ?? "Europe/Berlin");
	const people = await readPeople(db, before?.people);
	const personIndex = new Map(people.map((person, i) => [person.id, i]));
	const framework = await readEditions(db, zone);
	const rules = await readRules(db, org, zone, framework.editions, before?.rules);
	const teams = await all(db, sql`select name, parent from teams order by name`);
	const undecided = await all(db, sql`select distinct deal_id from weekly_missing where decision is null`);
	const reference = {
		people,
		personIndex,
		...(await readTargets(db, personIndex)),
		looseTasks: await readLooseTasks(db, zone, personIndex),
		teams: new Map(teams.map((row) => [String(row.name), text(row.parent)])),
		accounts: await readAccounts(db, zone, before?.accounts),
		marks: await readMarks(db, zone),
		activityKinds: [...new Set(["call", "meeting", "visit", "demo", "email", "message", "note", ...Object.keys(org?.activityKinds ?? {})])],
		undecided: new Set(undecided.map((row) => String(row.deal_id))),
		heldToday: org?.today ? parseDay(org.today) : null,
		outcomeReasons: org?.outcomeReasons ?? [],
		contactBands: org?.contactBands ?? STANDARD_BANDS,
		commitGoal: org?.commitGoal ?? STANDARD_GOAL,
		riskShare: org?.riskShare ?? STANDARD_RISK_SHARE,
		careDays: org?.careDays ?? STANDARD_CARE,
		reasonReturns: org?.reasonReturns ?? {},
		questionHelp: framework.help,
	};
	return { rules, reference };
}

const all = async (db: Sql, query: SQL) => (await db.execute(query)).rows as Stored[];

/** The tasks that are about no deal. */
export async function readLooseTasks(db: Sql, zone: Zone, personIndex: ReadonlyMap<string, number>): Promise<TaskFacts[]> {
	const rows = await all(
		db,
		sql`select ${TASK_COLUMNS}, (extract(epoch from created_at) * 1000)::float8 as created_at, (extract(epoch from done_at) * 1000)::float8 as done_at, ${FORMER} from tasks where deal_id is null`,
	);
	return rows.map((row) => taskFacts(row, zone, { personIndex }));
}

async function readPeople(db: Sql, before?: readonly Person[]): Promise<readonly Person[]> {
	const rows = await all(db, sql`select id, name, email, also, role, team, active_from, active_to from people order by id collate "C"`);
	const made = rows.map((row) => ({
		id: String(row.id),
		name: String(row.name),
		email: text(row.email),
		also: row.also as string[],
		role: row.role as Role,
		team: text(row.team),
		activeFrom: dayIn(row.active_from),
		activeTo: dayIn(row.active_to),
	}));
	return same(made, before, () => made);
}

interface FormerRow {
	readonly day: string;
	readonly field: FormerOfAccount;
	readonly before: string | null;
}

/** All accounts by id; what is kept of what belongs to no deal hangs on them, and is read again with them. */
export async function readAccounts(db: Sql, zone: Zone, before?: ReadonlyMap<string, Account>): Promise<ReadonlyMap<string, Account>> {
	const rows = await all(
		db,
		sql`select id, name, kind, industry, territory, owner_id, also, version, former from accounts left join (
				select account_id, json_agg(json_build_object('day', (at at time zone ${zone.name})::date::text, 'field', field, 'before', before) order by at desc, former_facts.id desc) as former
				from former_facts where account_id is not null group by account_id
			) changes on account_id = id order by id`,
	);
	const made = (): ReadonlyMap<string, Account> =>
		new Map(
			rows.map((row): [string, Account] => [
				String(row.id),
				{
					id: String(row.id),
					name: String(row.name),
					kind: text(row.kind),
					industry: text(row.industry),
					territory: text(row.territory),
					ownerId: text(row.owner_id),
					also: row.also as string[],
					version: Number(row.version),
					former: ((row.former ?? []) as FormerRow[]).map(({ day, field, before }) => ({ day: parseDay(day) ?? NO_DAY, field, before })),
				},
			]),
		);
	return same(rows, before, made);
}

/** Targets of people who are known. */
export async function readTargets(db: Sql, personIndex: ReadonlyMap<string, number>): Promise<{ targets: FocusTarget[]; focusTargets: FocusTarget[] }> {
	const rows = await all(db, sql`select person_id, period_start, period_end, amount, currency, family from targets`);
	const found = rows.flatMap((row) => {
		const person = personIndex.get(String(row.person_id));
		if (person === undefined) return [];
		const [start, end] = [dayIn(row.period_start), dayIn(row.period_end)];
		return [{ person, start, end, amount: Number(row.amount), currency: String(row.currency), family: String(row.family) }];
	});
	return { targets: found.filter(({ family }) => !family), focusTargets: found.filter(({ family }) => family) };
}

async function readRules(
	db: Sql,
	org: typeof organisationSettings.$inferSelect | undefined,
	zone: Zone,
	editions: Rules["editions"],
	before?: Rules,
): Promise<Rules> {
	const stages = await all(db, sql`select name, kind, probability, usual_days from stages order by position`);
	const rates = await all(db, sql`select currency, date, rate from rates`);
	const currencies = await all(db, DISTINCT_CURRENCIES);
	const holidays = await all(db, sql`select date from holidays`);
	const absent = await absentKinds(db);
	const decimal = (value: unknown) => parseDecimal(String(value)) ?? { units: 0, scale: 0 };
	return same([org, stages, rates, currencies, holidays, editions, [...absent]], before, () => ({
		absent,
		zone,
		calendar: makeCalendar(
			org?.weekend ?? [0, 6],
			holidays.map((row) => dayIn(row.date)),
		),
		fiscal: fiscalOf(
			{ startMonth: org?.fiscalStartMonth ?? 1, weeks: org?.fiscalWeeks ?? null },
			(org?.fiscalBefore ?? []).map((one) => ({ until: dayIn(one.until), startMonth: one.fiscalYearStartMonth, weeks: one.fiscalWeeks })),
		),
		rates: makeRates(
			org?.baseCurrency ?? "EUR",
			rates.map((row) => ({ currency: String(row.currency), day: dayIn(row.date), rate: decimal(row.rate) })),
		),
		stages: rankStages(
			stages.map((row) => ({
				name: String(row.name),
				kind: row.kind as StageKind,
				probability: decimal(row.probability),
				usualDays: Number(row.usual_days),
			})),
		),
		currencies: currencies.map((row) => String(row.currency)),
		editions,
		kindPositions: Object.fromEntries(Object.entries(org?.activityKinds ?? {}).map(([kind, of]) => [kind, of.stagePosition ?? 0])),
		flags: org?.flags ?? {},
		attention: org?.attention ?? {},
		attentionWas: (org?.attentionWas ?? []).map(({ until, set }) => ({ until: parseDay(until) ?? NO_DAY, set })),
	}));
}

/** Each currency once: one step of an index a currency, where `distinct` would read every version. */
const DISTINCT_CURRENCIES = sql`
	with recursive each (currency) as (
		select min(currency) from deal_versions
		union all
		select (select min(v.currency) from deal_versions v where v.currency > each.currency) from each where each.currency is not null
	)
	select currency from each where currency is not null order by 1`;

export type ReferenceData = Awaited<ReturnType<typeof readReferenceData>>;
