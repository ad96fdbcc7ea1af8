"use client";
import { change, nearDate, shortMoney } from "@/ui/format";
import { Scrolls } from "@/ui/parts/Scrolls";
import type { TrendView as View } from "../server/readTrend";

/** The same in figures, the last week first. */
export function TrendTable({ view, seen, open }: { view: View; seen: string; open: (day: string) => void }) {
	const names = view.parts;
	return (
		<Scrolls of="Weeks" className="panel p-0 mt-3">
			<table className="table">
				<thead>
					<tr>
						<th>Week ending</th>
						<th className="num">Deals</th>
						<th className="num">Open</th>
						<th className="num">Change</th>
						<th className="num">Weighted</th>
						{names.map((name) => (
							<th key={name} className="num">
								{name}
							</th>
						))}
						<th className="num">Won so far</th>
						<th className="num">Lost so far</th>
					</tr>
				</thead>
				<tbody>
					{[...view.points].reverse().map((point, i, list) => {
						const before = list[i + 1];
						return (
							<tr key={point.day}>
								<td>
									<button type="button" className="plain-button trend-day" title="See the deals of that day" onClick={() => open(point.day)}>
										{nearDate(point.day, seen)}
									</button>
								</td>
								<td className="num">{point.count}</td>
								<td className="num">{shortMoney(point.open, view.currency)}</td>
								<td className={`num ${before && point.open < before.open ? "worse" : "gained"}`}>
									{before ? change(point.open - before.open, view.currency) : ""}
								</td>
								<td className="num">{shortMoney(point.weighted, view.currency)}</td>
								{point.parts.map((value, n) => (
									<td key={names[n]} className="num second">
										{value ? shortMoney(value, view.currency) : "–"}
									</td>
								))}
								<td className="num">{shortMoney(point.won, view.currency)}</td>
								<td className="num">
									{shortMoney(point.lost + point.lostOutside, view.currency)}
									{point.lostOutside > 0 && <span className="d-block tiny second">{shortMoney(point.lostOutside, view.currency)} due elsewhere</span>}
								</td>
							</tr>
						);
					})}
				</tbody>
			</table>
			{view.points.some(({ lostOutside }) => lostOutside > 0) && (
				<p className="second small-text px-3 py-2 mb-0">
					“Lost so far” is every deal lost in the period, as on Period. “Due elsewhere” is the part that wasn’t due in it before it was lost; in Changes it is
					beside the bridge.
				</p>
			)}
		</Scrolls>
	);
}
