import type { Fiscal } from "@/core/time/fiscal";
import { quarterOf } from "@/core/time/period";
import { periodWords } from "@/core/time/words";
import type { Context } from "@/platform/context";
import type { PatternTable } from "../../table/view";
import { grouped, type groupingOf } from "../groups";
import { bySize, type Cells, type Told } from "./cells";

/** Win rate and days to close, by group. */
export function daysTable(context: Context, all: readonly Told[], by: ReturnType<typeof groupingOf>, cell: Cells): PatternTable {
	const groups = [...grouped(all, ({ seen }) => by.partsOf(context, seen.deal, seen.owner))].map(([group, own]) => ({
		group,
		name: by.nameOf(context, group),
		own,
	}));
	return {
		key: "days",
		title: `Win rate and days to close, ${by.label}`,
		of: by.label.replace("by ", ""),
		half: true,
		columns: [
			{ label: "Win rate, by count", kind: "share" },
			{ label: "Days to a win", kind: "number" },
			{ label: "Days to a loss", kind: "number" },
		],
		rows: groups
			.sort((a, b) => a.name.localeCompare(b.name))
			.map(({ group, name, own }) => ({
				key: group,
				name,
				cells: [cell.wonShare(`by:${group}`, name, own), cell.days(own.filter(({ won }) => won)), cell.days(own.filter(({ won }) => !won))],
			})),
		empty: "No deals were closed in the last year.",
	};
}

/** How often each reason was given, quarter by quarter. */
export function timeTable(fiscal: Fiscal, lost: readonly Told[], cell: Cells): PatternTable {
	const quarters = [...grouped(lost, ({ day }) => [String(quarterOf(day, fiscal).start)])].sort(([a], [b]) => Number(a) - Number(b));
	return {
		key: "time",
		title: "Losses over time",
		lead: "The first and last quarters are counted only as far as the year goes.",
		of: "Reason",
		half: true,
		columns: quarters.map(([start]) => ({ label: periodWords(quarterOf(Number(start), fiscal)), kind: "count" })),
		rows: bySize(grouped(lost, ({ reason }) => [reason])).map(([reason, own]) => ({
			key: reason,
			name: reason,
			cells: quarters.map(([start]) =>
				cell.count(
					`time:${start}:${reason}`,
					`Lost in ${periodWords(quarterOf(Number(start), fiscal))}: ${reason}`,
					own.filter(({ day }) => quarterOf(day, fiscal).start === Number(start)),
				),
			),
		})),
		empty: "No deals were lost in the last year.",
	};
}
