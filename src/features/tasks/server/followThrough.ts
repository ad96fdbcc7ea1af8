import { z } from "zod";
import type { Scope } from "@/core/bridge/scope";
import { RULES } from "@/core/flags/list";
import { FOLLOWED, type FollowedCounts, type FollowThrough, followThrough, type OutcomeCounts, type TooLate, tooLate } from "@/core/tasks/followThrough";
import { OUTCOMES } from "@/core/tasks/outcome";
import type { Day } from "@/core/time/day";
import type { Period } from "@/core/time/period";
import { cached } from "@/platform/cached";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { chosenName } from "@/platform/names";
import type { Viewpoint } from "@/platform/viewpoint";
import { outcomesOn } from "./outcomes";
import { allTasks, ofScope, type Standing, tasksOn } from "./standing";
import { rowsOf, type TaskRow } from "./taskRows";

const count = z.number().int();
const outcomeCounts = Object.fromEntries(OUTCOMES.map((state) => [state, count])) as Record<(typeof OUTCOMES)[number], typeof count>;
const counts = {
	set: count,
	...(Object.fromEntries(FOLLOWED.map((kind) => [kind, count])) as Record<(typeof FOLLOWED)[number], typeof count>),
	outcomes: z.object(outcomeCounts),
};
export const followThroughSchema = z
	.object({
		...counts,
		people: z.array(z.object({ id: z.string(), name: z.string(), ...counts })),
		flags: z.array(z.object({ code: z.string(), ...outcomeCounts })),
	})
	.meta({ id: "FollowThrough" });
export type FollowThroughJson = z.infer<typeof followThroughSchema>;

/** What became of the tasks given to some people in a period, as seen on a day. */
export const readFollowThrough = query("tasks.followThrough", "readTasks", (context: Context, scope: Scope, period: Period, seen: Day): FollowThroughJson => {
	const { organisation } = context;
	const whole = followed(context, scope, period, seen);
	const plain = ({ outcomes, ...rest }: FollowedCounts) => ({ ...rest, outcomes: { ...outcomes } });
	return {
		...plain(whole),
		people: [...whole.people].map(([index, own]) => ({ id: organisation.people[index]?.id ?? "", name: chosenName(organisation, index), ...plain(own) })),
		flags: RULES.flatMap(({ code }) => {
			const found = whole.flags.get(code);
			return found ? [{ code, ...found }] : [];
		}),
	};
});

function followed(context: Context, scope: Scope, period: Period, seen: Day): FollowThrough & FollowedCounts {
	const { organisation } = context;
	const key = `${scope === null ? "all" : [...scope].join(",")} ${period.start} ${period.end} ${seen}`;
	return cached(organisation, "follow-through", key, () => {
		const { people, flags, ...rest } = followThrough([...allTasks(organisation).values()], { scope, period, seen }, (one) => outcomesOn(context, one, seen));
		return { ...rest, people, flags };
	});
}

/** Tasks that won't be done in time, each with why. */
export interface LateList {
	readonly why: TooLate;
	readonly rows: readonly TaskRow[];
	readonly count: number;
}

const WHYS: readonly TooLate[] = ["overdue", "after the close", "after the period"];
const SHOWN = 200;

/** The open tasks of some people, and on deals of theirs, that won't be done in time: by why, the first due first. */
export const readTooLate = query(
	"tasks.tooLate",
	"readTasks",
	async (context: Context, { whose, seen }: Pick<Viewpoint, "whose" | "seen">, period: Period): Promise<LateList[]> => {
		const { company } = context.organisation;
		const open = ofScope(context, tasksOn(context, seen.day, "open"), whose.scope);
		const why = (one: Standing) => tooLate(company, one, period, seen.day);
		return Promise.all(
			WHYS.map(async (kind) => {
				const own = open.filter((one) => why(one) === kind).sort((a, b) => a.task.due - b.task.due || (a.id < b.id ? -1 : 1));
				return { why: kind, count: own.length, rows: await rowsOf(context, own.slice(0, SHOWN), seen.day) };
			}),
		);
	},
);

export type { OutcomeCounts };
