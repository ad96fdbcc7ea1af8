"use client";
import { change, nearDate, shortMoney } from "@/ui/format";
import { DataTable } from "@/ui/parts/table/DataTable";
import type { TrendView as View } from "../server/readTrend";

/** The same in figures, the last week first. */
export function TrendTable({ view, seen, open }: { view: View; seen: string; open: (day: string) => void }) {
	// Long: one table, its columns in their order.
	const { currency } = view;
	const rows = view.points.map((point, i) => ({ ...point, gained: i ? point.open - (view.points[i - 1]?.open ?? 0) : null })).reverse();
	return (
		<>
			<DataTable
				of="Weeks"
				className="panel p-0 mt-3"
				tableClass=""
				rows={rows}
				rowKey={({ day }) => day}
				columns={[
					{
						key: "day",
						label: "Week ending",
						by: ({ day }) => day,
						cell: ({ day }) => (
							<button type="button" className="plain-button trend-day" title="See the deals of that day" onClick={() => open(day)}>
								{nearDate(day, seen)}
							</button>
						),
					},
					{ key: "deals", label: "Deals", num: true, by: ({ count }) => count, cell: ({ count }) => count },
					{ key: "open", label: "Open", num: true, by: (point) => point.open, cell: (point) => shortMoney(point.open, currency) },
					{
						key: "change",
						label: "Change",
						num: true,
						by: ({ gained }) => gained,
						cell: ({ gained }) => gained !== null && <span className={gained < 0 ? "worse" : "gained"}>{change(gained, currency)}</span>,
					},
					{ key: "weighted", label: "Weighted", num: true, by: ({ weighted }) => weighted, cell: ({ weighted }) => shortMoney(weighted, currency) },
					...view.parts.map((words, n) => ({
						key: `part ${words}`,
						label: words,
						num: true,
						className: "second",
						by: ({ parts }: (typeof rows)[number]) => parts[n],
						cell: ({ parts }: (typeof rows)[number]) => (parts[n] ? shortMoney(parts[n], currency) : "–"),
					})),
					{ key: "won", label: "Won so far", num: true, by: ({ won }) => won, cell: ({ won }) => shortMoney(won, currency) },
					{
						key: "lost",
						label: "Lost so far",
						num: true,
						by: ({ lost, lostOutside }) => lost + lostOutside,
						cell: ({ lost, lostOutside }) => (
							<>
								{shortMoney(lost + lostOutside, currency)}
								{lostOutside > 0 && <span className="d-block tiny second">{shortMoney(lostOutside, currency)} due elsewhere</span>}
							</>
						),
					},
				]}
			/>
			{view.points.some(({ lostOutside }) => lostOutside > 0) && (
				<p className="second small-text px-3 py-2 mb-0">
					“Lost so far” is every deal lost in the period, as on Period. “Due elsewhere” is the part that wasn’t due in it before it was lost; in Changes it is
					beside the bridge.
				</p>
			)}
		</>
	);
}
