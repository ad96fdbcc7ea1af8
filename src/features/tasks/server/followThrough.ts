import { z } from "zod";
import type { Scope } from "@/core/bridge/scope";
import { derive } from "@/core/derive";
import { RULES } from "@/core/flags/list";
import {
	FOLLOWED,
	type FollowedCounts,
	type FollowThrough,
	followedAs,
	followThrough,
	isFollowed,
	type OutcomeCounts,
	type TaskOfDeal,
	type TooLate,
	tooLate,
} from "@/core/tasks/followThrough";
import { OUTCOMES } from "@/core/tasks/outcome";
import { taskOn } from "@/core/tasks/task";
import type { Day } from "@/core/time/day";
import type { Period } from "@/core/time/period";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { chosenName } from "@/platform/names";
import type { Viewpoint } from "@/platform/viewpoint";
import { outcomesOn } from "./outcomes";
import { everyTask, ofScope, type Standing, tasksOn } from "./standing";
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
	return derive(organisation, "follow-through", key, () => {
		const { people, flags, ...rest } = followThrough(everyTask(organisation), { scope, period, seen }, (one) => outcomesOn(context, one, seen));
		return { ...rest, people, flags };
	});
}

/** rows that are shown at once */
const SHOWN = 200;

/** Which of the tasks that follow-through counts: those behind one of its figures. */
const behindSchema = z.object({
	/** the id of the person who has them */
	of: z.string().optional().catch(undefined),
	/** `set`: all of them */
	became: z
		.enum([...FOLLOWED, "set"])
		.optional()
		.catch(undefined),
	flag: z.string().optional().catch(undefined),
	/** of at least one of their flags; `told`: any of which it can be told whether it went out */
	outcome: z
		.enum([...OUTCOMES, "told"])
		.optional()
		.catch(undefined),
});
export type Behind = z.infer<typeof behindSchema>;
const TOLD: ReadonlySet<string> = new Set(["out", "closed", "lit"]);

export interface FollowedTasks extends Behind {
	/** whose they are, by name */
	readonly who: string | null;
	readonly count: number;
	/** how many outcomes of their flags are meant; null where no flag is asked for */
	readonly flags: number | null;
	readonly rows: readonly TaskRow[];
}

/** The tasks behind a figure of follow-through, the first due first; null where none is asked for. */
export const readFollowedTasks = query(
	"tasks.followed",
	"readTasks",
	async (context: Context, scope: Scope, period: Period, seen: Day, asked: Readonly<Record<string, string | undefined>>): Promise<FollowedTasks | null> => {
		const { of, became, flag, outcome } = behindSchema.parse(asked);
		if (!of && !became && !flag && !outcome) return null;
		const { organisation } = context;
		const person = of === undefined ? null : (organisation.personIndex.get(of) ?? -1);
		const meant = (one: TaskOfDeal) =>
			outcomesOn(context, one, seen).filter(
				(found) => (!flag || found.flag === flag) && (!outcome || (outcome === "told" ? TOLD.has(found.state) : found.state === outcome)),
			).length;
		let flags = 0;
		const isBehind = (one: TaskOfDeal) => {
			if (!isFollowed(one.task, { scope, period, seen })) return false;
			if (person !== null && taskOn(one.task, seen).assignee !== person) return false;
			if (became && became !== "set" && followedAs(one.task, seen) !== became) return false;
			const n = flag || outcome ? meant(one) : 0;
			flags += n;
			return (!flag && !outcome) || n > 0;
		};
		const found = everyTask(organisation).flatMap((one) => (isBehind(one) ? [{ id: one.task.id, ...one }] : []));
		found.sort((a, b) => a.task.due - b.task.due || (a.id < b.id ? -1 : 1));
		return {
			of,
			became,
			flag,
			outcome,
			who: person === null ? null : chosenName(organisation, person),
			count: found.length,
			flags: flag || outcome ? flags : null,
			rows: await rowsOf(context, found.slice(0, SHOWN), seen),
		};
	},
);

/** Tasks that won't be done in time, each with why. */
export interface LateList {
	readonly why: TooLate;
	readonly rows: readonly TaskRow[];
	readonly count: number;
}

const WHYS: readonly TooLate[] = ["overdue", "after the close", "after the period"];

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
