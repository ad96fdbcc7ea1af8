import { shortMoney } from "@/core/money/words";
import { plural } from "@/core/words/grammar";
import type { DealRow } from "@/features/deals";
import type { FileContent } from "@/platform/tableFile";
import { dealsOfTile } from "../dealsOfTile";
import { teller } from "./teller";

/** Deals in the columns that a mail has room for. */
export const dealsTable = (rows: readonly DealRow[], currency: string): FileContent => ({
	currency,
	columns: [
		{ label: "Deal", kind: "text" },
		{ label: "Account", kind: "text" },
		{ label: "Rep", kind: "text" },
		{ label: "Stage", kind: "text" },
		{ label: `Amount ${currency}`, kind: "amount" },
		{ label: "Close date", kind: "day" },
		{ label: "Need", kind: "count" },
		{ label: "Flags", kind: "text" },
	],
	rows: rows.map(({ name, account, owner, stage, amount, close, score, flags }) => [
		name,
		account,
		owner,
		stage,
		amount,
		close,
		score,
		flags.map(({ label }) => label).join(", "),
	]),
});

const FLAGS_TOLD = 2;

/** The same with the two most pressing flags of each, and how many more. */
export const briefDeals = (rows: readonly DealRow[], currency: string): FileContent => {
	const { columns, rows: all } = dealsTable(rows, currency);
	const told = rows.map(({ flags }) => {
		const more = flags.length - FLAGS_TOLD;
		const first = flags.slice(0, FLAGS_TOLD).map(({ label }) => label);
		return [...first, ...(more > 0 ? [`${more} more`] : [])].join(", ");
	});
	return { currency, columns, rows: all.map((row, i) => [...row.slice(0, -1), told[i] ?? ""]) };
};

/** How many, and how much. */
export const sumWords = (rows: readonly DealRow[], currency: string): string =>
	`${plural(rows.length, "deal")}, ${shortMoney(
		rows.reduce((sum, { amount }) => sum + amount, 0),
		currency,
	)}`;

/** A list of deals with a filter of its own. */
export const dealsTold = teller({
	key: "deals",
	tell(context, viewpoint, settings) {
		const { title, rows, currency, more } = dealsOfTile(context, viewpoint, settings);
		const query = new URLSearchParams(more).toString();
		return {
			title,
			says: [`${sumWords(rows, currency)}.`],
			content: dealsTable(rows, currency),
			brief: briefDeals(rows, currency),
			path: `/deals${query ? `?${query}` : ""}`,
		};
	},
});
