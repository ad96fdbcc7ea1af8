import { plural } from "@/core/words/grammar";
import { tasksFile } from "@/features/tasks";
import { letterKind } from "./letter";

/** The tasks that are open. */
export const tasksLetter = letterKind({
	key: "tasks",
	label: "Tasks that are open",
	async read(context, viewpoint) {
		const content = await tasksFile.read(context, viewpoint, () => undefined);
		const words = `${plural(content.rows.length, "task")} open`;
		return { subject: words, says: [`${words}.`], parts: [{ title: "", says: [], content, path: null }], path: "/tasks" };
	},
});
