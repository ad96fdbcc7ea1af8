import { asc, eq } from "drizzle-orm";
import { z } from "zod";
import { RULES } from "@/core/flags/list";
import { litSince } from "@/core/flags/since";
import { NONE } from "@/core/history/columns";
import { type Day, formatDay, NO_DAY } from "@/core/time/day";
import { shortDay } from "@/core/time/words";
import { connection } from "@/data/db";
import { contacts, dealContacts, taskChanges, tasks } from "@/data/schema";
import { lookup } from "@/platform/command";
import type { Context } from "@/platform/context";
import { notFound } from "@/platform/fault";
import { idSchema } from "@/platform/input";
import { personName } from "@/platform/names";
import { assignablePeople } from "./assignees";
import { outcomesOn } from "./outcomes";
import { seesTask, taskById } from "./standing";
import type { StoredTask } from "./storedTask";
import { rowsOf } from "./taskRows";

/** What a flag's story says: when it lit, when the task was given, and what became of it. */
export interface FlagStory {
	readonly code: string;
	readonly name: string;
	readonly words: string;
}

/** Everything of one task: what it is now, how it came to be so, what became of its flags, and what may be done with it. */
export const taskDetail = lookup({
	name: "tasks.detail",
	right: "readTasks",
	input: z.object({ id: idSchema }),
	async run({ context, input: { id } }) {
		const { organisation, actor, now } = context;
		const { db } = connection();
		const [stored] = await db.select().from(tasks).where(eq(tasks.id, id));
		if (!stored || !seesTask(context, stored)) throw notFound("task", id);
		const [row] = await rowsOf(context, [stored], now.day);
		if (!row) throw notFound("task", id);
		const changes = await db.select().from(taskChanges).where(eq(taskChanges.taskId, id)).orderBy(asc(taskChanges.at), asc(taskChanges.id));
		const { zone } = organisation.company.rules;
		const people = stored.dealId
			? await db
					.select({ id: contacts.id, name: contacts.name })
					.from(dealContacts)
					.innerJoin(contacts, eq(contacts.id, dealContacts.contactId))
					.where(eq(dealContacts.dealId, stored.dealId))
					.orderBy(contacts.name)
			: [];
		return {
			row,
			history: changes.map((change, i) => ({
				id: change.id,
				what: change.what,
				by: personName(organisation, change.byId) ?? "The program",
				day: formatDay(zone.dayOf(change.at.getTime())),
				why: change.why,
				label: changeWords(context, change, changes[i + 1]?.before ?? stored),
			})),
			stories: storiesOf(context, stored),
			kinds: organisation.activityKinds,
			contacts: people,
			people: assignablePeople(context),
			own: stored.assigneeId === actor.person.id,
			mayTake: stored.state === "open" && stored.assigneeId === null && stored.team !== null,
			mayChange: actor.person.role !== "rep" || stored.assigneeId === actor.person.id,
		};
	},
});

type Stands = Pick<StoredTask, "dueOn" | "assigneeId">;

function changeWords({ organisation }: Context, { what, before }: typeof taskChanges.$inferSelect, after: Stands): string {
	if (what === "moved") return `moved from ${before.dueOn ?? "no day"} to ${after.dueOn ?? "no day"}`;
	if (what === "handed over" || what === "handed back" || what === "taken")
		return `${what}${before.assigneeId ? ` by ${personName(organisation, before.assigneeId) ?? "somebody"}` : ""} to ${personName(organisation, after.assigneeId) ?? "somebody"}`;
	return what;
}

/** The stories of a task's flags, as of today. */
export function storiesOf(context: Context, stored: Pick<StoredTask, "id" | "flags">, day: Day = context.now.day): FlagStory[] {
	const known = taskById(context.organisation, stored.id);
	if (!known || !stored.flags.length) return [];
	const { company } = context.organisation;
	const { createdDay } = known.task;
	const since = known.deal === NONE ? new Map<string, Day>() : litSince(company, known.deal, createdDay, stored.flags);
	return outcomesOn(context, known, day).map(({ flag, state, on, closed }) => {
		const name = RULES.find(({ code }) => code === flag)?.name ?? flag;
		const lit = since.get(flag);
		const began = state === "not_lit" || lit === undefined || lit > createdDay ? "" : `lit ${shortDay(lit)}, `;
		const end = {
			not_lit: "flag wasn’t on, so there was nothing to clear",
			closed: `the deal was ${closed ?? "closed"} ${on === NO_DAY ? "" : shortDay(on)}`.trim(),
			out: `cleared ${on === NO_DAY ? "" : shortDay(on)}`.trim(),
			lit: "still lit",
			early: "too early to tell",
		}[state];
		return { code: flag, name, words: `${began}task ${shortDay(createdDay)}, ${end}` };
	});
}
