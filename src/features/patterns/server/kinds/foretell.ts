import { LIGHTS } from "@/core/attention/attention";
import { RULES } from "@/core/flags/list";
import { grouped } from "@/core/money/words";
import { type Due, dueOver } from "@/core/patterns/due";
import { lastPeriods } from "@/core/patterns/quarters";
import { answerRecords, flagRecords, lightRecords, type TrackRecord } from "@/core/patterns/records";
import { apart, shareOf } from "@/core/statistics/wilson";
import { byCount } from "@/core/words/grammar";
import type { Context } from "@/platform/context";
import { type PatternTable, type Row, text } from "../../table/view";
import { Book, dueCases, lookedView, patternKind } from "../book";
import { levelWords, percent } from "../words";

/** within so much of once as often nothing is foretold */
const EVEN = 1.15;
/** of fewer deals with a flag that isn't said: their interval holds far more than once as often */
const ENOUGH = 20;

const VERDICTS = {
	few: text("too few to say"),
	miss: text("signals a miss", undefined, "worse"),
	win: text("goes with winning", undefined, "better"),
	nothing: text("showed no difference"),
	unclear: text("no clear difference"),
};

/** What a track record says; two shares whose intervals overlap are never told apart. */
export function verdictOf({ with: own, without, lift }: TrackRecord): keyof typeof VERDICTS {
	if (own.share === null || without.share === null) return "few";
	if (apart(own, without)) return own.share > without.share ? "miss" : "win";
	return own.n >= ENOUGH && lift !== null && lift < EVEN && lift > 1 / EVEN ? "nothing" : "unclear";
}

/** What foretold that a deal isn't won in time: flags, levels of attention, and answers. */
export const foretell = patternKind({
	key: "foretell",
	label: "Signals of a miss",
	read(context, { scope, day, look }) {
		const { company } = context.organisation;
		const list = lastPeriods(company, "quarter", day, look.quarters, look.lead);
		const due = dueOver(company, list, scope);
		const book = new Book();
		const opens = (key: string, title: string, holds: (one: Due) => boolean) =>
			book.open(key, title, "weren’t won in time", () => dueCases(context, due.filter(holds), "missed"));
		const records = flagRecords(company, list, scope)
			.filter((one) => one.with.n > 0)
			.map((one) => ({ ...one, name: RULES.find(({ code }) => code === one.code)?.name ?? one.code }))
			.sort((a, b) => (b.lift ?? -1) - (a.lift ?? -1) || b.with.n - a.with.n);
		const missed = due.filter(({ won }) => !won).length;
		const nothing = records.filter((one) => verdictOf(one) === "nothing").sort((a, b) => b.with.n - a.with.n);
		return {
			openings: book.openings,
			view: {
				headline: headlineOf(records, nothing, list.length),
				beside: [
					nothing.length > 1 ? `No difference shown: ${nothing.map(({ name }) => name).join(", ")}.` : "",
					"A flag that goes with losing isn’t necessarily its cause.",
				].filter(Boolean),
				about: null,
				rests: [grouped(due.length), `${byCount(due.length, "deal", "deals")}, ${due.length - missed} won in time`],
				looked: lookedView(list),
				follow: { label: "See the effect of other weights", path: "/setup?place=flags", right: "changeRules" },
				groupings: [],
				by: null,
				currency: company.rules.rates.base,
				tables: [flags(records, opens), levels(context, list, scope, opens), answers(context, list, scope, opens)],
			},
		};
	},
});

type Opens = (key: string, title: string, holds: (one: Due) => boolean) => string;
type List = ReturnType<typeof lastPeriods>;

interface Recorded extends TrackRecord {
	readonly code: string;
	readonly name: string;
}

function headlineOf(records: readonly Recorded[], [most]: readonly Recorded[], quarters: number): string {
	const best = records.find((one) => verdictOf(one) === "miss");
	const finding = !quarters
		? "Too little history to say which signals matter"
		: best
			? `Of deals with “${best.name}”, ${percent(best.with.share)} weren’t won in time; without it ${percent(best.without.share)}`
			: "No flag clearly signals whether deals are won in time";
	return finding + (most ? `. “${most.name}” showed no difference` : "");
}

function flags(records: readonly Recorded[], opens: Opens): PatternTable {
	const has = (code: string) => (one: Due) => one.seen.flags.some((flag) => flag.code === code);
	return {
		key: "flags",
		title: "Flags",
		lead: "Share of deals not won by the quarter’s end, with the flag and without. The line is the 95% interval.",
		of: "Flag",
		columns: [
			{ label: "Not won in time with it", kind: "share" },
			{ label: "Without it", kind: "share" },
			{ label: "Lift", kind: "number" },
			{ label: "Finding", kind: "text" },
		],
		rows: records.map(
			(one): Row => ({
				key: one.code,
				name: one.name,
				cells: [
					{ kind: "share", share: one.with, beside: one.without, opens: opens(`flag:${one.code}:with`, `${one.name}: deals with it`, has(one.code)) },
					{ kind: "share", share: one.without, opens: opens(`flag:${one.code}:without`, `${one.name}: deals without it`, (d) => !has(one.code)(d)) },
					{ kind: "number", value: one.lift, digits: 2, unit: "" },
					VERDICTS[verdictOf(one)],
				],
			}),
		),
		empty: "No deals that were due had a flag.",
	};
}

function levels({ organisation: { company } }: Context, list: List, scope: Parameters<typeof dueOver>[2], opens: Opens): PatternTable {
	const byLevel = new Map(lightRecords(company, list, scope).map((one) => [one.level, one]));
	return {
		key: "levels",
		title: "Levels of attention",
		of: "Level",
		half: true,
		columns: [{ label: "Not won in time", kind: "share" }],
		rows: [...LIGHTS].reverse().map((level) => ({
			key: level,
			name: level,
			cells: [
				{
					kind: "share",
					share: byLevel.get(level) ?? shareOf(0, 0),
					opens: opens(`level:${level}`, `At ${level}`, (one) => one.seen.ownLevel === level),
				},
			],
		})),
		empty: "No deals were due.",
	};
}

function answers({ organisation: { company } }: Context, list: List, scope: Parameters<typeof dueOver>[2], opens: Opens): PatternTable {
	const prompts = new Map(company.rules.editions.flatMap(({ questions }) => questions.map(({ id, prompt }) => [id, prompt] as const)));
	return {
		key: "answers",
		title: "Answers",
		of: "Question",
		half: true,
		columns: [
			{ label: "Answer", kind: "text" },
			{ label: "Not won in time", kind: "share" },
		],
		rows: answerRecords(company, list, scope).map(({ question, level, ...share }) => ({
			key: `${question}:${level}`,
			name: prompts.get(question) ?? question,
			cells: [
				text(levelWords(level)),
				{
					kind: "share",
					share,
					opens: opens(`answer:${question}:${level}`, `${prompts.get(question) ?? question} ${levelWords(level)}`, ({ seen: { qualification } }) => {
						const i = qualification.questions.findIndex(({ id }) => id === question);
						return i >= 0 && (qualification.standings[i]?.level ?? "unknown") === level;
					}),
				},
			],
		})),
		empty: "No deals that were due had questions.",
	};
}
