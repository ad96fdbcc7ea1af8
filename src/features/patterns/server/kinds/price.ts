import { grouped as count, shortMoney } from "@/core/money/words";
import { type Closed, closedWithin } from "@/core/patterns/closed";
import { discountOf, LATE, type Late, lateChanges, valuePath } from "@/core/patterns/priced";
import { LEAST } from "@/core/statistics/wilson";
import { surveyOn } from "@/core/survey";
import { shortDay } from "@/core/time/words";
import { plural } from "@/core/words/grammar";
import type { Context } from "@/platform/context";
import type { Cell, PatternTable, Row } from "../../table/view";
import { Book, type Case, patternKind } from "../book";
import { DEAL_GROUPINGS, type DealGrouping, grouped, groupingOf, offered } from "../groups";
import { awayOf, givesAway, type Line, linesOf } from "../priced";
import { percent } from "../words";

const OFFERED = [DEAL_GROUPINGS.rep, DEAL_GROUPINGS.account, DEAL_GROUPINGS.product, DEAL_GROUPINGS.kind];
const SHOWN = 30;

/** What deals are worth along their way to the win, what is given off the list, and who gives away late. */
export const price = patternKind({
	key: "price",
	label: "Price",
	async read(context, { scope, day, by: askedBy }) {
		const { organisation } = context;
		const { company } = organisation;
		const by = groupingOf(askedBy, OFFERED);
		const book = new Book();
		const won = closedWithin(company, surveyOn(company, day), scope, day).filter((one) => one.won);
		const lines = await linesOf(context, won);
		const late = lateChanges(company, won, day);
		const [first] = givesAway([...grouped(late, ({ closed }) => DEAL_GROUPINGS.rep.partsOf(context, closed.seen.deal, closed.seen.owner))]);
		const currency = company.rules.rates.base;
		return {
			openings: book.openings,
			view: {
				headline: !won.length
					? "No deals were won in the last year"
					: first
						? `${DEAL_GROUPINGS.rep.nameOf(context, first.id)} gives a discount of ${percent(first.away)} in the last two weeks before a win; others ${percent(first.others)}`
						: `Deals close at ${percent(1 - awayOf(late))} of their value two weeks earlier`,
				beside: [`${plural(won.length, "deal")} won in a year; ${percent(discountOf(lines))} off list price, by their current lines.`].filter(Boolean),
				about: "deals won within a year",
				rests: [count(won.length), "won"],
				looked: null,
				groupings: offered(OFFERED),
				by: by.key,
				currency,
				tables: [pathTable(context, won, by, book, day), lateTable(context, late, by, book), discountTable(context, won, lines, by, book)],
			},
		};
	},
});

const closedCases = (list: readonly Closed[]) => (): Case[] =>
	list.map(({ seen, day }) => ({ deal: seen.deal, day, owner: seen.owner, amount: seen.amountBase, came: `won ${shortDay(day)}`, hit: null }));

/** Groups, the largest first, and not more than are read with pleasure. */
const largest = <T>(groups: ReadonlyMap<string, T[]>): [string, T[]][] => [...groups].sort(([, a], [, b]) => b.length - a.length).slice(0, SHOWN);

function pathTable(context: Context, won: readonly Closed[], by: DealGrouping, book: Book, day: number): PatternTable {
	const { company } = context.organisation;
	const all = valuePath(company, won, day);
	const shown = [...all.stages.keys()].sort((a, b) => (company.rules.stages[a]?.rank ?? 0) - (company.rules.stages[b]?.rank ?? 0));
	const row = (key: string, name: string, list: readonly Closed[], total = false): Row => {
		const path = valuePath(company, list, day);
		return {
			key,
			name,
			total,
			cells: [
				{ kind: "count", value: list.length, opens: book.open(`path:${key}`, `Won: ${name}`, null, closedCases(list)) },
				...shown.map((stage): Cell => ({ kind: "money", minor: rounded(path.stages.get(stage)?.mean ?? null) })),
				{ kind: "money", minor: rounded(path.won.mean) },
			],
		};
	};
	return {
		key: "path",
		title: "Average amount on the way to the win",
		lead: "Of deals won in a year, at the end of the day on which each stage was first entered, and when won; fewer than five aren’t shown.",
		of: by.label.replace("by ", ""),
		columns: [
			{ label: "Won", kind: "count" },
			...shown.map((stage) => ({ label: company.rules.stages[stage]?.name ?? "", kind: "money" as const })),
			{ label: "When won", kind: "money" },
		],
		rows: [
			...largest(grouped(won, ({ seen }) => by.partsOf(context, seen.deal, seen.owner))).map(([group, own]) => row(group, by.nameOf(context, group), own)),
			...(won.length ? [row("all", "Total", won, true)] : []),
		],
		empty: "No deals were won in the last year.",
	};
}

const rounded = (value: number | null) => (value === null ? null : Math.round(value));

function lateTable(context: Context, late: readonly Late[], by: DealGrouping, book: Book): PatternTable {
	const { base } = context.organisation.company.rules.rates;
	const sums = (list: readonly Late[]) => [list.reduce((sum, { before }) => sum + before, 0), list.reduce((sum, { after }) => sum + after, 0)] as const;
	const cases = (list: readonly Late[]) => (): Case[] =>
		list.map(({ closed, before, after }) => ({
			deal: closed.seen.deal,
			day: closed.day,
			owner: closed.seen.owner,
			amount: after,
			came: after === before ? "as before" : `${shortMoney(before, base)} two weeks before`,
			hit: after < before,
		}));
	const row = (key: string, name: string, list: readonly Late[], total = false): Row => {
		const [before, after] = sums(list);
		return {
			key,
			name,
			total,
			cells: [
				{
					kind: "count",
					value: list.length,
					opens: book.open(`late:${key}`, `Won, and their last two weeks: ${name}`, "were worth less when won than two weeks before", cases(list)),
				},
				{ kind: "money", minor: list.length < LEAST ? null : before },
				{ kind: "money", minor: list.length < LEAST ? null : after },
				{ kind: "percent", value: list.length < LEAST ? null : awayOf(list) },
			],
		};
	};
	return {
		key: "late",
		title: "Late discounts",
		lead: `Amounts ${LATE} working days before the win, and when won, of deals that were open and priced then.`,
		of: by.label.replace("by ", ""),
		half: true,
		columns: [
			{ label: "Won", kind: "count" },
			{ label: "Two weeks before", kind: "money" },
			{ label: "When won", kind: "money" },
			{ label: "Discount", kind: "percent" },
		],
		rows: [
			...largest(grouped(late, ({ closed: { seen } }) => by.partsOf(context, seen.deal, seen.owner)))
				.sort(([, a], [, b]) => Number(b.length >= LEAST) - Number(a.length >= LEAST) || awayOf(b) - awayOf(a))
				.map(([group, own]) => row(group, by.nameOf(context, group), own)),
			...(late.length ? [row("all", "Total", late, true)] : []),
		],
		empty: "No deal won in the last year was open two weeks before.",
	};
}

function discountTable(context: Context, won: readonly Closed[], lines: readonly Line[], by: DealGrouping, book: Book): PatternTable {
	const byDeal = new Map(won.map((one) => [one.seen.deal, one]));
	const groups = largest(
		grouped(lines, (line) => (by.key === "product" ? [line.product] : by.partsOf(context, line.deal, byDeal.get(line.deal)?.seen.owner ?? -1))),
	).map(([group, own]) => ({ group, name: by.nameOf(context, group), own, off: discountOf(own) }));
	const row = (key: string, name: string, own: readonly Line[], total = false): Row => {
		const deals = [...new Set(own.map(({ deal }) => deal))].flatMap((deal) => byDeal.get(deal) ?? []);
		const listed = own.reduce((sum, { quantity, list }) => sum + quantity * list, 0);
		return {
			key,
			name,
			total,
			cells: [
				{ kind: "count", value: deals.length, opens: book.open(`off:${key}`, `Lines of ${name}`, null, closedCases(deals)) },
				{ kind: "count", value: own.length },
				{ kind: "money", minor: deals.length < LEAST ? null : Math.round(listed) },
				{ kind: "percent", value: deals.length < LEAST ? null : discountOf(own) },
			],
		};
	};
	return {
		key: "discount",
		title: "Discount off list price",
		lead: "1 − line totals ÷ the same at list prices, for deals won in the last year.",
		of: by.label.replace("by ", ""),
		half: true,
		columns: [
			{ label: "Deals", kind: "count" },
			{ label: "Lines", kind: "count" },
			{ label: "At list price", kind: "money" },
			{ label: "Discount", kind: "percent" },
		],
		rows: [
			...groups.sort((a, b) => (b.off ?? 0) - (a.off ?? 0)).map(({ group, name, own }) => row(group || "none", name, own)),
			...(lines.length ? [row("all", "Total", lines, true)] : []),
		],
		empty: "No deal won in the last year has lines with list prices.",
	};
}
