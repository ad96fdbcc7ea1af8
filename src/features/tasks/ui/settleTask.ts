import type { Input, Outcome, Result, useRun } from "@/ui/run";

/** What can be done with an open task. */
export type Doing = "done" | "log" | "moved" | "handed" | "back" | "dropped";

/** A contact that is logged as the task is done. */
export interface Log {
	readonly kind: string;
	readonly direction: string;
	readonly subject: string;
	readonly contactId: string;
}

/** What was filled in; of it is read what the doing needs. */
interface Filled {
	readonly note: string;
	readonly day: string;
	readonly who: string;
	readonly log: Log;
}

type Settled = Outcome<{ readonly changes: readonly number[]; readonly words: string }>;

/** Does one thing with a task; answers the changes that undo it, and what was done in words. */
export async function settleTask(
	run: ReturnType<typeof useRun>,
	{ id, title }: Pick<Result<"tasks.detail">["row"], "id" | "title">,
	doing: Doing,
	{ note: text, day, who, log }: Filled,
): Promise<Settled> {
	const one = <T extends { change: number | null }>(work: Outcome<T>, words: string | ((done: T) => string)): Settled =>
		work.ok
			? {
					ok: true,
					result: { changes: work.result.change === null ? [] : [work.result.change], words: typeof words === "string" ? words : words(work.result) },
				}
			: work;
	const many = (work: Outcome<{ changes: number[] }>, words: string): Settled =>
		work.ok ? { ok: true, result: { changes: work.result.changes, words } } : work;
	switch (doing) {
		case "done":
			return one(await run("tasks.change", { id, state: "done", note: text || null }), "Task done.");
		case "log":
			return one(await run("tasks.change", { id, state: "done", note: text || null, log: activityOf(log, title, text) }), "Logged, and the task is done.");
		case "moved":
			return many(await run("tasks.changeMany", { ids: [id], dueOn: day, why: text }), "The task is due on another day.");
		case "handed":
			return many(await run("tasks.changeMany", { ids: [id], assigneeId: who, why: text }), "The task is handed over.");
		case "back":
			return one(await run("tasks.handBack", { id, why: text }), ({ to }) => `Handed back to ${to}.`);
		case "dropped":
			return many(await run("tasks.changeMany", { ids: [id], drop: true, why: text }), "Task dropped.");
	}
}

const activityOf = ({ kind, direction, subject, contactId }: Log, title: string, body: string): NonNullable<Input<"tasks.change">["log"]> => ({
	kind,
	direction: direction as "both",
	subject: subject.trim() || title,
	body: body || null,
	contactIds: contactId ? [contactId] : [],
});
