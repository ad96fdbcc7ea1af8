import type { Sheet } from "@/formats/table";
import { notFound } from "@/platform/fault";
import { tableFile } from "@/platform/tableFile";
import { fateWords } from "../table/markdown";
import type { MinutesView } from "./minutesView";
import { readMinutes } from "./readMinutes";

/** The minutes of the round that the address names: its calls, and beside them its promises and totals; of a walk its decisions and what was given. */
export const minutesFile = tableFile({
	key: "minutes",
	async read(context, _viewpoint, ask) {
		const id = ask("round");
		if (!id) throw notFound("round", "");
		const view = await readMinutes(context, id);
		const { currency } = view;
		const walk = view.kind === "walk";
		return {
			currency,
			columns: [
				{ label: "Deal", kind: "text" },
				{ label: "Account", kind: "text" },
				{ label: "Rep", kind: "text" },
				{ label: "Category", kind: "text" },
				{ label: `Amount ${currency}`, kind: "amount" },
				{ label: walk ? "Decision" : "Call", kind: "text" },
				{ label: "New close date", kind: "day" },
				{ label: "Reason", kind: "text" },
				{ label: "By", kind: "text" },
				{ label: "Note", kind: "text" },
				{ label: "Changed", kind: "text" },
			],
			rows: view.deals.map(({ name, account, owner, category, amount, call, note, changes }) => [
				name,
				account,
				owner,
				category,
				amount,
				call?.call ?? "",
				call?.to ?? null,
				call?.why ?? null,
				call?.by ?? null,
				note,
				changes.map(({ words }) => words).join("; "),
			]),
			sheets: [
				{
					name: walk ? "Given" : "Promised",
					columns: [
						{ label: walk ? "Task" : "Promise", kind: "text" },
						{ label: "Who", kind: "text" },
						{ label: "By", kind: "day" },
						{ label: "What happened to it", kind: "text" },
					],
					rows: view.promises.map(({ title, who, due, fate }) => [title, who, due, fateWords(fate, view.kind)]),
				},
				...(walk ? [] : [totalsSheet(view)]),
			],
		};
	},
});

function totalsSheet({ before, after, currency }: MinutesView): Sheet {
	const total = (words: string, of: (totals: NonNullable<typeof before>) => number | null) => [words, before && of(before), after && of(after)];
	return {
		name: "Totals",
		columns: [
			{ label: "", kind: "text" },
			{ label: `Before ${currency}`, kind: "amount" },
			{ label: `After ${currency}`, kind: "amount" },
		],
		rows: [
			total("target", ({ target }) => target),
			total("won", ({ won }) => won),
			total("by the reps", ({ byWord }) => byWord),
			total("by the calls", ({ byCalls }) => byCalls),
			total("called shaky", ({ shaky }) => shaky),
		],
	};
}
