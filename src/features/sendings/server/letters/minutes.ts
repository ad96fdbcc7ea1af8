import { fullMoney } from "@/core/money/words";
import { parseDay } from "@/core/time/day";
import { longDay } from "@/core/time/words";
import { plural } from "@/core/words/grammar";
import { lastEndedOf, minutesFile, readMinutes, readPlans, totalsHeading } from "@/features/rounds";
import { fateWords } from "@/features/rounds/table/markdown";
import { columnsOf, letterKind } from "./letter";

const BRIEF = ["Deal", "Account", "Rep", "Amount", "Call", "New close date", "Reason", "Note"];

/** The minutes of the last round that was held by a plan. */
export const minutesLetter = letterKind({
	key: "minutes",
	label: "Minutes of the last round",
	of: { label: "Which round", hint: "Recipients are told of the deals they see.", choices: readPlans },
	own: true,
	async read(context, viewpoint, of) {
		const id = await lastEndedOf(context, of);
		if (!id) return null;
		const view = await readMinutes(context, id);
		const on = longDay(parseDay(view.on) ?? 0);
		const { sheets: _, columns, rows, currency } = await minutesFile.read(context, viewpoint, () => id);
		const money = (amount: number | null | undefined) => (amount === null || amount === undefined ? "–" : fullMoney(amount, currency));
		const { before, after } = view;
		return {
			subject: `${view.name}, ${on}: ${plural(view.deals.length - view.uncalled, "deal")} called`,
			says: [
				`${view.name}, ${on}: ${view.whose} deals due in ${view.period}; held by ${view.startedBy}.`,
				...(after
					? [`${totalsHeading(view)} by the calls: ${money(after.byCalls)}, before it ${money(before?.byCalls)}; by the reps ${money(after.byWord)}.`]
					: []),
				...(view.note ? [view.note] : []),
			],
			parts: [
				{ title: "", says: [], content: { columns, rows, currency }, brief: columnsOf({ columns, rows }, BRIEF), path: null },
				{
					title: view.promises.length ? plural(view.promises.length, "promise") : "No promises were made",
					says: view.promises.map(({ title, who, due, fate }) => `${title} (${who}${due ? `, by ${due}` : ""}): ${fateWords(fate, view.kind)}`),
					path: null,
				},
			],
			path: `/rounds/${encodeURIComponent(id)}`,
		};
	},
});
