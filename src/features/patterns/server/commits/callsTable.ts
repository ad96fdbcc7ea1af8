import { ownerIn, type Scope } from "@/core/bridge/scope";
import { NONE } from "@/core/history/columns";
import { CALLS } from "@/core/rounds/calls";
import { shareOfRows } from "@/core/statistics/wilson";
import type { CallTold } from "@/features/rounds";
import type { Context } from "@/platform/context";
import type { PatternTable } from "../../table/view";
import type { Book, Case } from "../book";

/** How the calls of rounds came true, by who called. */
export function callsTable(context: Context, book: Book, scope: Scope, calls: readonly CallTold[]): PatternTable {
	const { organisation } = context;
	const indexed = calls
		.map((one) => ({ ...one, deal: organisation.dealIndex.get(one.dealId) ?? NONE, owner: organisation.personIndex.get(one.of ?? "") ?? NONE }))
		.filter(({ owner }) => ownerIn(scope, owner));
	return {
		key: "calls",
		title: "Calls of rounds",
		lead: "How many of the calls that are settled by now came true.",
		of: "Call",
		half: true,
		columns: [
			{ label: "Came true", kind: "share" },
			{ label: "Not settled yet", kind: "count" },
		],
		rows: CALLS.map((call) => {
			const own = indexed.filter((one) => one.call === call);
			const told = own.filter(({ came }) => came !== null);
			const casesOf = (list: typeof own) => (): Case[] =>
				list.map(({ deal, owner, day, amount, came }) => ({
					deal,
					day,
					owner,
					amount,
					came: came === null ? "not settled yet" : came ? "came true" : "did not",
					hit: came,
				}));
			const open = own.length - told.length;
			return {
				key: call,
				name: call,
				cells: [
					{
						kind: "share",
						share: shareOfRows(told.map(({ deal, came }) => ({ deal, hit: came === true }))),
						opens: book.open(`call:${call}`, `Called ${call}`, "came true", casesOf(told)),
					},
					open
						? {
								kind: "count",
								value: open,
								opens: book.open(`call:${call}:open`, `Called ${call}, not settled yet`, null, casesOf(own.filter(({ came }) => came === null))),
							}
						: { kind: "count", value: null },
				],
			};
		}),
		empty: "No rounds held yet.",
	};
}
