import { tableFile } from "@/platform/tableFile";
import { readTaskView, TASK_VIEWS } from "./taskPage";

/** The tasks of a view, all of them. */
export const tasksFile = tableFile({
	key: "tasks",
	async read(context, viewpoint, ask) {
		const view = TASK_VIEWS.find((one) => one === ask("state")) ?? "open";
		const { rows } = await readTaskView(context, viewpoint.whose.scope, viewpoint.seen.day, { view, limit: Number.MAX_SAFE_INTEGER });
		const currency = context.organisation.company.rules.rates.base;
		return {
			currency,
			columns: [
				{ words: "Task", kind: "text" },
				{ words: "For", kind: "text" },
				{ words: "Due", kind: "day" },
				{ words: "State", kind: "text" },
				{ words: "Deal number", kind: "text" },
				{ words: "Deal", kind: "text" },
				{ words: "Account", kind: "text" },
				{ words: `Amount ${currency}`, kind: "amount" },
				{ words: "Close date", kind: "day" },
				{ words: "Given by", kind: "text" },
				{ words: "Given on", kind: "day" },
				{ words: "Done on", kind: "day" },
				{ words: "Note", kind: "text" },
				{ words: "Flags", kind: "text" },
			],
			rows: rows.map((row) => [
				row.title,
				row.assignee,
				row.dueOn,
				row.state,
				row.dealId ?? "",
				row.deal,
				row.account,
				row.amount,
				row.close,
				row.givenBy,
				row.givenOn,
				row.doneOn,
				row.note,
				row.flags.join(" "),
			]),
		};
	},
});
