import { tableFile } from "@/platform/tableFile";
import { TASK_VIEWS } from "./taskGroups";
import { readTaskView } from "./taskPage";

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
				{ label: "Task", kind: "text" },
				{ label: "For", kind: "text" },
				{ label: "Due", kind: "day" },
				{ label: "State", kind: "text" },
				{ label: "Deal number", kind: "text" },
				{ label: "Deal", kind: "text" },
				{ label: "Account", kind: "text" },
				{ label: `Amount ${currency}`, kind: "amount" },
				{ label: "Close date", kind: "day" },
				{ label: "Given by", kind: "text" },
				{ label: "Given on", kind: "day" },
				{ label: "Done on", kind: "day" },
				{ label: "Note", kind: "text" },
				{ label: "Flags", kind: "text" },
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
