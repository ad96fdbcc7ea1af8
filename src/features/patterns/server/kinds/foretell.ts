import { LIGHTS } from "@/core/attention/attention";
import { RULES } from "@/core/flags/list";
import { grouped } from "@/core/money/words";
import { type Due, dueOver } from "@/core/patterns/due";
import { lastPeriods } from "@/core/patterns/quarters";
import { answerRecords, flagRecords, lightRecords, type TrackRecord } from "@/core/patterns/records";
import { shareWords } from "@/core/statistics/shareWords";
import { shareOf } from "@/core/statistics/wilson";
import { byCount } from "@/core/words/grammar";
import type { Context } from "@/platform/context";
import { type PatternTable, type Row, text } from "../../table/view";
import { Book, dueCases, lookedView, patternKind } from "../book";
import { levelWords, testedWords } from "../words";

const VERDICTS = {
	few: text("too few to say"),
	miss: text("signals a miss", undefined, "worse"),
	win: text("goes with winning", undefined, "better"),
	nothing: text("showed no difference"),
	unclear: text("can’t be told"),
};

/** What a track record says: more than chance would, that there is no difference, or neither. */
export function verdictOf({ with: own, without, apart, nothing }: Pick<TrackRecord, "with" | "without" | "apart" | "nothing">): keyof typeof VERDICTS {
	if (own.share === null || without.share === null) return "few";
	if (apart) return own.share > without.share ? "miss" : "win";
	return nothing ? "nothing" : "unclear";
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
		const records = flagRecords(company, list, day, scope)
			.filter((one) => one.with.n > 0)
			.map((one) => ({ ...one, name: RULES.find(({ code }) => code === one.code)?.name ?? one.code }))
			.sort((a, b) => (b.shrunkLift ?? -1) - (a.shrunkLift ?? -1) || b.with.n - a.with.n);
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
			? `Of deals with “${best.name}”, ${shareWords(best.with)} weren’t won in time; without it ${shareWords(best.without)}`
			: "No flag clearly signals whether deals are won in time";
	return finding + (most ? `. “${most.name}” showed no difference` : "");
}

function flags(records: readonly Recorded[], opens: Opens): PatternTable {
	const tested = records.filter(({ p }) => p !== null);
	const has = (code: string) => (one: Due) => one.seen.flags.some((flag) => flag.code === code);
	return {
		key: "flags",
		title: "Flags",
		lead: `Share of deals not won by the quarter’s end, with the flag and without. The line is the 95% interval, which counts a deal of several quarters once. ${testedWords("flag", tested.length, records.filter(({ apart }) => apart).length)} The lift is drawn towards 1 where there are few deals. Won later: of those not won in time, within the two quarters after.`,
		of: "Flag",
		columns: [
			{ label: "Not won in time with it", kind: "share" },
			{ label: "Without it", kind: "share" },
			{ label: "Lift", kind: "number" },
			{ label: "Won later", kind: "text" },
			{ label: "Finding", kind: "text" },
		],
		rows: records.map(
			(one): Row => ({
				key: one.code,
				name: one.name,
				cells: [
					{ kind: "share", share: one.with, beside: one.without, opens: opens(`flag:${one.code}:with`, `${one.name}: deals with it`, has(one.code)) },
					{ kind: "share", share: one.without, opens: opens(`flag:${one.code}:without`, `${one.name}: deals without it`, (d) => !has(one.code)(d)) },
					{ kind: "number", value: one.shrunkLift, digits: 2, unit: "" },
					text(one.laterWon === null ? "–" : `${one.laterWon} of ${one.with.k}`),
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
