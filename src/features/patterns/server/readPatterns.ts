import type { Light } from "@/core/attention/attention";
import type { Scope } from "@/core/bridge/scope";
import { RULES } from "@/core/flags/list";
import { CATEGORIES, type Category, NONE } from "@/core/history/columns";
import { lastPeriods } from "@/core/patterns/quarters";
import { type AmountShare, accuracyOf, answerRecords, flagRecords, lightRecords, type TrackRecord } from "@/core/patterns/records";
import { timeInStage } from "@/core/patterns/timeInStage";
import type { Level } from "@/core/qualification/score";
import type { Share } from "@/core/statistics/wilson";
import { type Day, formatDay } from "@/core/time/day";
import { cached } from "@/platform/cached";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { chosenName } from "@/platform/names";
import { reaches, reachOf } from "@/platform/reach";

/** How far back is looked, and how many working days before each end. */
export interface Looking {
	readonly quarters: number;
	readonly lead: number;
}
export const USUAL_LOOK: Looking = { quarters: 4, lead: 20 };
export const MOST_QUARTERS = 8;

export interface LookedView {
	readonly from: string;
	readonly to: string;
	readonly day: string;
}

const looked = (context: Context, { quarters, lead }: Looking, day: Day) => lastPeriods(context.organisation.company, "quarter", day, quarters, lead);
const viewOf = (list: ReturnType<typeof looked>): LookedView[] =>
	list.map(({ period, day }) => ({ from: formatDay(period.start), to: formatDay(period.end), day: formatDay(day) }));

/** Whatever is worked out of the whole past is kept with the company. */
const kept = <T>({ organisation: { company } }: Context, key: string, make: () => T): T => cached(company, "patterns", key, make, 60);

export interface FlagRecord extends TrackRecord {
	readonly code: string;
	readonly name: string;
}

/** The track record of each flag, of each level of attention and of each question's answers, over everybody's deals. */
export const readForetelling = query(
	"patterns.foretelling",
	"readPatterns",
	(
		context: Context,
		look: Looking,
		day: Day,
	): {
		quarters: LookedView[];
		flags: FlagRecord[];
		levels: (Share & { level: Light })[];
		answers: (Share & { question: string; prompt: string; level: Level })[];
	} =>
		kept(context, `foretelling ${look.quarters} ${look.lead} ${day}`, () => {
			const { company } = context.organisation;
			const list = looked(context, look, day);
			const prompts = new Map(company.rules.editions.flatMap(({ questions }) => questions.map(({ id, prompt }) => [id, prompt] as const)));
			return {
				quarters: viewOf(list),
				flags: flagRecords(company, list).map((one) => ({ ...one, name: RULES.find(({ code }) => code === one.code)?.name ?? one.code })),
				levels: lightRecords(company, list),
				answers: answerRecords(company, list).map((one) => ({ ...one, prompt: prompts.get(one.question) ?? one.question })),
			};
		}),
);

export interface AccuracyView {
	readonly quarters: readonly LookedView[];
	readonly category: Category;
	readonly count: Share;
	readonly amount: AmountShare;
	readonly people: readonly { readonly id: string; readonly name: string; readonly count: Share; readonly amount: AmountShare }[];
}

/** How many of the deals that some people had in a category came true in time. */
export const readAccuracy = query(
	"patterns.accuracy",
	"readPatterns",
	(context: Context, scope: Scope, category: Category, look: Looking, day: Day): AccuracyView => {
		const { organisation } = context;
		const list = looked(context, look, day);
		const { count, amount, people } = accuracyOf(organisation.company, list, category, scope);
		return {
			quarters: viewOf(list),
			category,
			count,
			amount,
			people: people.flatMap(({ owner, ...own }) => {
				const person = organisation.people[owner];
				return person ? [{ id: person.id, name: chosenName(organisation, owner), ...own }] : [];
			}),
		};
	},
);
export const categoryAsked = (asked: string | undefined): Category => CATEGORIES.find((one) => one === asked) ?? "commit";

export const STAGE_GROUPS = ["rep", "family", "kind"] as const;
export type StageGrouping = (typeof STAGE_GROUPS)[number];

export interface StageTimeView {
	readonly stage: string;
	/** the id of a rep, a family, or a kind of customer */
	readonly group: string;
	readonly name: string;
	readonly finished: number;
	readonly unfinished: number;
	readonly mean: number | null;
	readonly median: number | null;
	readonly curve: readonly { readonly length: number; readonly share: number }[];
}

/** How long deals stay in each stage, by rep, by product family or by kind of customer; of owners within reach. */
export const readStageTimes = query("patterns.stageTimes", "readPatterns", (context: Context, by: StageGrouping, day: Day): StageTimeView[] => {
	const { organisation, actor } = context;
	const { company, deals, people, accounts } = organisation;
	const reach = reachOf(organisation, actor);
	return kept(context, `stage times ${by} ${day} ${reach === null ? "" : [...reach].join(",")}`, () => {
		const groups = (deal: number, owner: number): readonly string[] => {
			if (!reaches(reach, owner)) return [];
			if (by === "rep") return owner === NONE ? [] : [people[owner]?.id ?? ""];
			if (by === "family") return deals[deal]?.families ?? [];
			const kind = accounts.get(deals[deal]?.accountId ?? "")?.kind;
			return kind ? [kind] : [];
		};
		const nameOf = (group: string) => (by === "rep" ? chosenName(organisation, organisation.personIndex.get(group) ?? NONE) : group.replaceAll("_", " "));
		return timeInStage(company, day, groups).map(({ stage, group, ...times }) => ({
			stage: company.rules.stages[stage]?.name ?? "",
			group,
			name: nameOf(group),
			...times,
		}));
	});
});
