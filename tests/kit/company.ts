import type { Rest } from "@/core/attention/rest";
import type { AttentionSettings } from "@/core/attention/settings";
import type { Company, DealFacts, QuoteFacts, Rules } from "@/core/company";
import { companyOf } from "@/core/company";
import { activitiesOf } from "@/core/contact/activities";
import type { Activity, Direction } from "@/core/contact/activity";
import type { DealSeen } from "@/core/dealSeen";
import type { FlagSettings } from "@/core/flags/settings";
import { BLANK_VERSION, BLOCK_SIZE, blockIndex, CATEGORIES, type Category, NONE, REMOVED, type VersionRow } from "@/core/history/columns";
import { makeHistory } from "@/core/history/make";
import { rankStages } from "@/core/history/stage";
import { parseAmount } from "@/core/money/amount";
import { parseDecimal } from "@/core/money/decimal";
import { makeRates, type Rate } from "@/core/money/rates";
import type { Employment } from "@/core/people/person";
import type { Answer, Level } from "@/core/qualification/answer";
import { answersOf } from "@/core/qualification/answers";
import type { Question } from "@/core/qualification/score";
import { SeenDeal } from "@/core/seenDeal";
import type { TaskFacts } from "@/core/tasks/task";
import { makeCalendar } from "@/core/time/calendar";
import { type Day, NO_DAY, parseDay } from "@/core/time/day";
import { makeZone } from "@/core/time/zone";

/** Days in tests are written as ISO text. */
export const day = (iso: string): Day => {
	const parsed = parseDay(iso);
	if (parsed === null) throw new Error(`${iso} isn’t a day`);
	return parsed;
};

/** An instant: `2026-03-10 09:00` in UTC. */
export const at = (text: string): number => Date.parse(`${text.replace(" ", "T")}${text.length > 10 ? "" : "T08:00"}:00Z`);

export interface TestVersion {
	at: string;
	stage?: string;
	/** whole units; null for blank */
	amount?: number | null;
	currency?: string;
	close?: string | null;
	owner?: number | null;
	category?: Category;
	next?: string | null;
}

export interface TestDeal {
	created?: string;
	versions: TestVersion[];
	activities?: [at: string, direction: Direction, state?: "planned" | "done", kind?: string, contacts?: string[]][];
	answers?: [question: number, level: Level, at: string][];
	tasks?: Partial<TaskFacts>[];
	account?: boolean;
	contact?: boolean;
	signatory?: boolean;
	rests?: readonly (Pick<Rest, "from" | "until" | "flags"> & Partial<Rest>)[];
	quotes?: [sent: string, validUntil: string, answered?: string][];
}

export interface TestRules {
	zone?: string;
	holidays?: string[];
	questions?: Partial<Question>[];
	/** further editions of the questions, from a day on */
	later?: [from: string, questions: Partial<Question>[]][];
	kindPositions?: Record<string, number>;
	flags?: FlagSettings;
	attention?: AttentionSettings;
	rates?: [currency: string, date: string, rate: string][];
	base?: string;
}

/** Five open stages, ten usual days each. */
export const STAGES = ["Enquiry", "Survey", "Trial", "Proposal", "Terms", "Won", "Lost"];
const CURRENCIES = ["EUR", "GBP", "JPY", "KWD"];
const decimal = (text: string) => parseDecimal(text) as NonNullable<ReturnType<typeof parseDecimal>>;

export function makeRules(given: TestRules = {}): Rules {
	return {
		zone: makeZone(given.zone ?? "UTC"),
		calendar: makeCalendar([0, 6], (given.holidays ?? []).map(day)),
		fiscal: 1,
		rates: makeRates(
			given.base ?? "EUR",
			(given.rates ?? []).map(([currency, date, rate]): Rate => ({ currency, day: day(date), rate: decimal(rate) })),
		),
		stages: rankStages(
			STAGES.map((name, i) => ({
				name,
				kind: name === "Won" ? "won" : name === "Lost" ? "lost" : "open",
				probability: decimal(["0.1", "0.25", "0.4", "0.6", "0.8", "1", "0"][i] ?? "0"),
				usualDays: 10,
			})),
		),
		currencies: CURRENCIES,
		editions: [
			{ from: NO_DAY, questions: (given.questions ?? []).map(questionOf) },
			...(given.later ?? []).map(([from, questions]) => ({ from: day(from), questions: questions.map(questionOf) })),
		],
		kindPositions: given.kindPositions ?? {},
		flags: given.flags ?? {},
		attention: given.attention ?? {},
	};
}

const questionOf = (given: Partial<Question>, i: number): Question => ({
	id: `q${i + 1}`,
	slot: i,
	area: "Need",
	prompt: `Question ${i + 1}?`,
	weight: 1,
	due: 1,
	key: false,
	...given,
});

const ALWAYS_HERE: Employment = { activeFrom: NO_DAY, activeTo: NO_DAY };
/** Three who have always worked here, then one who left, and one who is still to come. */
const PEOPLE: readonly Employment[] = [
	ALWAYS_HERE,
	ALWAYS_HERE,
	ALWAYS_HERE,
	{ activeFrom: NO_DAY, activeTo: day("2026-03-13") },
	{ activeFrom: day("2026-04-01"), activeTo: NO_DAY },
];

/** A company of hand-made deals. Each version takes over what it doesn't say from the one before. */
export function makeCompany(deals: TestDeal[], given: TestRules = {}): Company {
	const rules = makeRules(given);
	const rows: VersionRow[] = [];
	deals.forEach((deal, index) => {
		let state: Required<Omit<TestVersion, "at">> = {
			stage: "Enquiry",
			amount: 1000,
			currency: "EUR",
			close: null,
			owner: 0,
			category: "pipeline",
			next: null,
		};
		for (const version of deal.versions) {
			state = { ...state, ...version };
			rows.push({
				...BLANK_VERSION,
				deal: index,
				at: at(version.at),
				stage: state.stage === "removed" ? REMOVED : STAGES.indexOf(state.stage),
				amount: state.amount === null ? Number.NaN : (parseAmount(String(state.amount), state.currency) as number),
				currency: CURRENCIES.indexOf(state.currency),
				close: state.close === null ? NO_DAY : day(state.close),
				owner: state.owner ?? NONE,
				category: CATEGORIES.indexOf(state.category),
				nextStepDay: state.next === null ? NO_DAY : day(state.next),
				id: rows.length + 1,
			});
		}
	});
	const facts = deals.map((deal, i): DealFacts => {
		const { zone } = rules;
		return {
			id: `deal-${i + 1}`,
			createdDay: zone.dayOf(at(deal.created ?? deal.versions[0]?.at ?? "2026-01-01")),
			hasAccountName: deal.account ?? true,
			buyers: [{ since: NO_DAY, count: (deal.contact ?? true) ? 1 : 0, signatory: deal.signatory ?? false }],
			activities: activitiesOf(
				(deal.activities ?? []).map(
					([when, direction, state = "done", kind = "call", contacts = []]): Activity => ({
						kind,
						direction,
						state,
						at: at(when),
						day: zone.dayOf(at(when)),
						contacts,
						recorded: NO_DAY,
						plannedFor: NO_DAY,
						by: NONE,
						settled: NO_DAY,
					}),
				),
			),
			answers: answersOf((deal.answers ?? []).map(([question, level, when]): Answer => ({ question, level, at: at(when), day: zone.dayOf(at(when)) }))),
			tasks: (deal.tasks ?? []).map(
				(task): TaskFacts => ({
					id: "task",
					assignee: NONE,
					team: null,
					flags: [],
					former: [],
					createdDay: NO_DAY,
					due: NO_DAY,
					state: "open",
					doneDay: NO_DAY,
					doneAt: Number.NaN,
					...task,
				}),
			),
			rests: (deal.rests ?? []).map((rest, n): Rest => ({ id: `rest-${n + 1}`, ended: NO_DAY, by: NONE, reason: "known", ...rest })),
			quotes: (deal.quotes ?? []).map(
				([sent, validUntil, answered], n): QuoteFacts => ({
					id: `quote-${n + 1}`,
					number: String(n + 1),
					sent: day(sent),
					validUntil: day(validUntil),
					answered: answered ? day(answered) : NO_DAY,
				}),
			),
		};
	});
	return companyOf({ rules, deals: facts, people: PEOPLE, history: makeHistory(deals.length, rows, rules.zone) });
}

/** A deal that is there no longer: it says nothing, and fills a place. */
const NOBODY: TestDeal = { versions: [{ at: "2026-01-01", stage: "removed" }] };

/** Deals with others behind them that begin a block of their own. */
export const inBlocks = (...blocks: readonly (readonly TestDeal[])[]): TestDeal[] =>
	blocks.flatMap((deals, i) => (i === blocks.length - 1 ? deals : [...deals, ...Array.from({ length: BLOCK_SIZE - deals.length }, () => NOBODY)]));

/** A company as a process has it after some deals changed: what wasn’t touched are the objects from before. */
export function companyAfter(before: Company, fresh: Company, changed: ReadonlySet<number>): Company {
	const dirty = new Set([...changed].map(blockIndex));
	const blocks = fresh.history.blocks.map((block, i) => (dirty.has(i) ? block : (before.history.blocks[i] ?? block)));
	const deals = fresh.deals.map((facts, deal) => (changed.has(deal) ? facts : (before.deals[deal] ?? facts)));
	return companyOf({ rules: before.rules, people: before.people, deals, history: { deals: fresh.history.deals, blocks } }, before);
}

/** A deal that was seen, with all that is worked out only when it is asked for. */
export const allOf = (seen: DealSeen): DealSeen => (seen instanceof SeenDeal ? seen.toJSON() : seen);
