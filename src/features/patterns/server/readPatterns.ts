import { z } from "zod";
import type { Scope } from "@/core/bridge/scope";
import { derive } from "@/core/derive";
import type { Category } from "@/core/history/columns";
import { lastPeriods } from "@/core/patterns/quarters";
import { type AmountShare, accuracyOf } from "@/core/patterns/records";
import { timeInStage } from "@/core/patterns/timeInStage";
import type { Share } from "@/core/statistics/wilson";
import { type Day, formatDay } from "@/core/time/day";
import { accountsKey } from "@/data/organisation/former";
import { lookup, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { chosenName } from "@/platform/names";
import { reaches, reachOf } from "@/platform/reach";
import { reachPerson } from "@/platform/reachPerson";
import type { Looked } from "../table/view";
import { type Looking, lookedView } from "./book";
import { type FindingOrProgress, findingNow, findingOrProgress } from "./find";
import type { FlagRecord, Foretelling } from "./findings/foretelling";
import type { FlagHelp } from "./findings/taskHelp";
import { DEAL_GROUPINGS } from "./groups";
import type { Habit } from "./habits";
import { USUAL_LOOK } from "./looking";
import { idsOf } from "./scopes";

const looked = (context: Context, { quarters, lead }: Looking, day: Day) => lastPeriods(context.organisation.company, "quarter", day, quarters, lead);

/** Whatever is worked out of the whole past is kept with the company. */
const kept = <T>({ organisation }: Context, key: string, make: () => T): T =>
	derive(organisation.company, "stage times", `${key} ${accountsKey(organisation)}`, make, 60);

/** The track record of each flag, of each level of attention and of each question's answers, over everybody's deals. */
export const readForetelling = query(
	"patterns.foretelling",
	"readPatterns",
	(context: Context, look: Looking, day: Day): Promise<Foretelling> => findingNow(context, "foretelling", { day: formatDay(day), scope: null, ...look }),
);

/** The same of flags alone, by the usual look back and as it is known, at once: none while it is being worked out for the first time. */
export const trackRecords = lookup({
	name: "patterns.trackRecords",
	right: "readPatterns",
	input: z.object({}),
	async run({ context }): Promise<{ items: readonly FlagRecord[]; asOf: string | null }> {
		const { answer, asOf } = await findingOrProgress<Foretelling>(context, "foretelling", { day: formatDay(context.now.day), scope: null, ...USUAL_LOOK });
		return { items: answer?.flags ?? [], asOf };
	},
});

/** Whether flags are out more often where a task names them, of some people's deals. */
export const readTaskHelp = query(
	"patterns.taskHelp",
	"readPatterns",
	(context: Context, scope: Scope, day: Day): Promise<readonly Omit<FlagHelp, "lightings">[]> =>
		findingNow(context, "taskHelp", { day: formatDay(day), scope: idsOf(context.organisation, scope) }),
);

type Unnamed = Omit<AmountShare, "largest">;
/** Without the deal that it is mostly of, which is told on the page. */
const unnamed = ({ k, n, share }: AmountShare): Unnamed => ({ k, n, share });

export interface AccuracyView {
	readonly quarters: readonly Looked[];
	readonly category: Category;
	readonly count: Share;
	readonly amount: Unnamed;
	readonly people: readonly { readonly id: string; readonly name: string; readonly count: Share; readonly amount: Unnamed }[];
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
			quarters: lookedView(list),
			category,
			count,
			amount: unnamed(amount),
			people: people.flatMap(({ owner, count, amount }) => {
				const person = organisation.people[owner];
				return person ? [{ id: person.id, name: chosenName(organisation, owner), count, amount: unnamed(amount) }] : [];
			}),
		};
	},
);

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
	readonly restrictedMean: number | null;
	readonly handedOn: number;
	readonly median: number | null;
	readonly curve: readonly { readonly length: number; readonly share: number }[];
}

/** How long deals stay in each stage, by rep, by product family or by kind of customer; of owners within reach. */
export const readStageTimes = query("patterns.stageTimes", "readPatterns", (context: Context, by: StageGrouping, day: Day): StageTimeView[] => {
	const { organisation, actor } = context;
	const { company } = organisation;
	const grouping = DEAL_GROUPINGS[by];
	const reach = reachOf(organisation, actor);
	return kept(context, `stage times ${by} ${day} ${reach === null ? "" : [...reach].join(",")}`, () => {
		// The contract names no group for what has none.
		const groups = (deal: number, owner: number) => (reaches(reach, owner) ? grouping.partsOf(context, deal, owner).filter(Boolean) : []);
		return timeInStage(company, day, groups, () => by === "rep").map(({ stage, group, ...times }) => ({
			stage: company.rules.stages[stage]?.name ?? "",
			group,
			name: grouping.nameOf(context, group),
			...times,
		}));
	});
});

/** What the past says of somebody within reach beside all others: each figure with whether the two can be told apart. */
export const readPersonHabits = query(
	"patterns.personHabits",
	"readPatterns",
	async (context: Context, personId: string, day: Day): Promise<FindingOrProgress<Habit[]>> => {
		reachPerson(context, personId);
		return findingOrProgress<Habit[]>(context, "habits", { day: formatDay(day), scope: null, by: personId, ...USUAL_LOOK });
	},
);
