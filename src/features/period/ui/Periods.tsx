"use client";
import Link from "next/link";
import { Scrolls } from "@/ui/parts/Scrolls";
import type { PeriodView } from "../server/readPeriod";
import { FIGURES, type Figure, NO_TEAM_METRICS } from "../table/figures";
import { figureWords } from "../table/figureWords";
import { type Days, useOpens } from "./opens";

const SHOWN = ["target", "won", "gap", "open", "commit", "bestCase", "pipeline", "weighted", "cover", "commitCover", "needed", "act"];

/** This period, those that follow it and the months within it, side by side with the same figures. */
export function Periods({ view, days }: { view: PeriodView; days: Days }) {
	const opens = useOpens(days);
	const figures = SHOWN.flatMap((key) => FIGURES.find((figure) => figure.key === key) ?? []);
	return (
		<section className="panel p-0 periods" aria-label="Periods side by side">
			<h3 className="groups-head mb-0">Side by side</h3>
			<Scrolls of="Periods" className="groups-scroll">
				<table className="table mb-0">
					<thead>
						<tr>
							<th>Figure</th>
							{view.periods.map((one, i) => (
								<th key={one.key} className={`num ${one.within ? "period-within" : ""}`}>
									{i === 0 ? one.label : <Link href={opens.address("/period", { due: one.key, against: null })}>{one.label}</Link>}
								</th>
							))}
						</tr>
					</thead>
					<tbody>
						{figures.map((figure) => (
							<tr key={figure.key}>
								<th scope="row">{figure.label}</th>
								{view.periods.map((one) => (
									<td key={one.key} className={`num ${one.within ? "period-within" : ""}`}>
										<Cell
											value={figure.value(one.figures, NO_TEAM_METRICS)}
											figure={figure}
											currency={view.currency}
											href={opens.figure(figure.key, { due: one.key })}
										/>
									</td>
								))}
							</tr>
						))}
					</tbody>
				</table>
			</Scrolls>
		</section>
	);
}

/** A figure of a period, which opens what it is made of. */
function Cell({ value, figure, currency, href }: { value: number | null; figure: Figure; currency: string; href: string }) {
	const words = figureWords(value, figure.unit, currency);
	return value === null ? words : <Link href={href}>{words}</Link>;
}
