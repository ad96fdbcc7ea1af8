import { shareOf } from "@/core/statistics/wilson";
import { type PatternTable, text } from "../../table/view";
import { grouped } from "../groups";
import { bySize, type Cells, NOBODY, type Stages, sum, type Told } from "./cells";

/** Why deals were lost, by the stage they were lost in. */
export function lossTable(stages: Stages, lost: readonly Told[], cell: Cells): PatternTable {
	return {
		key: "lost",
		title: "Lost, by reason",
		of: "Reason",
		columns: [
			{ label: "Deals", kind: "count" },
			{ label: "Share of losses", kind: "share" },
			{ label: "Amount", kind: "money" },
			{ label: "Days to close", kind: "number" },
			{ label: "Most often lost from", kind: "text" },
			{ label: "Most often lost to", kind: "text" },
		],
		rows: bySize(grouped(lost, ({ reason }) => [reason])).map(([reason, own]) => {
			const from = bySize(grouped(own, (one) => [stages[one.from]?.name ?? "no stage"]))[0];
			const to = bySize(
				grouped(
					own.filter(({ competitor }) => competitor !== NOBODY),
					({ competitor }) => [competitor],
				),
			)[0];
			return {
				key: reason,
				name: reason,
				cells: [
					cell.count(`lost:${reason}`, `Lost: ${reason}`, own),
					{ kind: "share", share: shareOf(own.length, lost.length) },
					{ kind: "money", minor: sum(own) },
					cell.days(own),
					text(from ? from[0] : "", from ? `${from[1].length} of ${own.length}` : undefined),
					text(to ? to[0] : "", to ? `${to[1].length} of ${own.length}` : undefined),
				],
			};
		}),
		empty: "No deals were lost in the last year.",
	};
}

/** Why deals were won. */
export const winTable = (won: readonly Told[], cell: Cells): PatternTable => ({
	key: "won",
	title: "Won, by reason",
	of: "Reason",
	half: true,
	columns: [
		{ label: "Deals", kind: "count" },
		{ label: "Amount", kind: "money" },
		{ label: "Days to close", kind: "number" },
	],
	rows: bySize(grouped(won, ({ reason }) => [reason])).map(([reason, own]) => ({
		key: reason,
		name: reason,
		cells: [cell.count(`won:${reason}`, `Won: ${reason}`, own), { kind: "money", minor: sum(own) }, cell.days(own)],
	})),
	empty: "No deals were won in the last year.",
});

/** Who they were lost to, and how often one wins against each. */
export const rivalTable = (all: readonly Told[], cell: Cells): PatternTable => ({
	key: "competitors",
	title: "Competitors",
	of: "Competitor",
	half: true,
	columns: [
		{ label: "Win rate, by count", kind: "share" },
		{ label: "Lost", kind: "count" },
		{ label: "Lost amount", kind: "money" },
		{ label: "Most losses in", kind: "text" },
	],
	rows: bySize(grouped(all, ({ competitor }) => [competitor])).map(([competitor, own]) => {
		const lost = own.filter(({ won }) => !won);
		const team = bySize(grouped(lost, (one) => [one.team]))[0];
		return {
			key: competitor,
			name: competitor,
			cells: [
				cell.wonShare(`met:${competitor}`, `Against ${competitor}`, own),
				cell.count(`lost-to:${competitor}`, `Lost to ${competitor}`, lost),
				{ kind: "money", minor: sum(lost) },
				text(team ? team[0] : "", team ? `${team[1].length} of ${lost.length}` : undefined),
			],
		};
	}),
	empty: "No deals were closed in the last year.",
});

/** In which stage deals are lost, and after how long. */
export const stageTable = (stages: Stages, lost: readonly Told[], cell: Cells): PatternTable => ({
	key: "stages",
	title: "Lost from which stage",
	of: "Stage",
	half: true,
	columns: [
		{ label: "Deals", kind: "count" },
		{ label: "Share of losses", kind: "share" },
		{ label: "Amount", kind: "money" },
		{ label: "Days to close", kind: "number" },
	],
	rows: [...grouped(lost, ({ from }) => [String(from)])]
		.sort(([a], [b]) => (stages[Number(a)]?.rank ?? -1) - (stages[Number(b)]?.rank ?? -1))
		.map(([from, own]) => {
			const name = stages[Number(from)]?.name ?? "none that was open";
			return {
				key: from,
				name,
				cells: [
					cell.count(`from:${from}`, `Lost from ${name}`, own),
					{ kind: "share", share: shareOf(own.length, lost.length) },
					{ kind: "money", minor: sum(own) },
					cell.days(own),
				],
			};
		}),
	empty: "No deals were lost in the last year.",
});
