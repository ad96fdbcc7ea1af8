import { dayOrNull, NONE } from "@/core/history/columns";
import type { TaskFacts } from "@/core/tasks/task";
import { type Day, NO_DAY } from "@/core/time/day";
import { keptRevision } from "@/data/organisation/follow";
import { isOneOf } from "@/data/queries/isOneOf";
import { tasks as stored } from "@/data/schema";
import { readingFrom } from "@/data/standby";
import { noteOn, partsOf, type StoredTask } from "@/features/tasks";
import { type Asked, column, outsideTable } from "../table";

interface Source {
	readonly asked: Asked;
	readonly stored: StoredTask;
	/** as it stood on the day */
	readonly task: TaskFacts;
	readonly open: boolean;
	readonly day: Day;
}
const assignee = ({ asked, task }: Source) => (task.assignee === NONE ? undefined : asked.organisation.people[task.assignee]);

export const tasks = outsideTable<Source>(
	"tasks",
	"Every task as it stood at the end of the day.",
	[
		column("task_id", "text", "", ({ stored }) => stored.id),
		column("deal_id", "text", "", ({ stored }) => stored.dealId),
		column("account_id", "text", "of one about an account beside its deals", ({ stored }) => stored.accountId),
		column("title", "text", "", ({ stored }) => stored.title),
		column("assignee_id", "text", "", (source) => assignee(source)?.id ?? null),
		column("assignee", "text", "the name", (source) => assignee(source)?.name ?? null),
		column("team", "text", "in which anyone may take it", ({ task }) => task.team),
		column("given_by_id", "text", "", ({ stored }) => stored.createdById),
		column("given_at", "instant", "", ({ stored }) => stored.createdAt.getTime()),
		column("due_on", "day", "", ({ task }) => dayOrNull(task.due)),
		column("state", "text", "open, done or dropped", ({ open, task }) => (open ? "open" : task.state)),
		column("overdue", "flag", "open past its day", ({ open, task, day }) => open && task.due !== NO_DAY && task.due < day),
		column("done_at", "instant", "", ({ open, task }) => (open || Number.isNaN(task.doneAt) ? null : task.doneAt)),
		column("flags", "text", "codes of the flags it was given for, parted by spaces", ({ stored }) => stored.flags.join(" ")),
		column("note", "text", "how it was done", ({ open, task, stored, day }) => (open ? null : noteOn(task, stored, day))),
	],
	async function* (asked) {
		const { day } = asked;
		const db = await readingFrom(keptRevision() ?? 0);
		for (const part of partsOf(asked, asked.scope, day)) {
			if (!part.length) continue;
			const rows = new Map(
				(
					await db
						.select()
						.from(stored)
						.where(
							isOneOf(
								stored.id,
								part.map(({ id }) => id),
							),
						)
				).map((row) => [row.id, row]),
			);
			yield part.flatMap(({ id, task, state }): Source[] => {
				const row = rows.get(id);
				return row ? [{ asked, stored: row, task, open: state === "open", day }] : [];
			});
		}
	},
);
