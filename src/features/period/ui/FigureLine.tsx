"use client";
import Link from "next/link";
import type { PeriodView } from "../server/readPeriod";
import { changeOf, FIGURES } from "../table/figures";
import { changeWords, figureWords } from "../table/figureWords";
import { type Days, useOpens } from "./opens";

const SHOWN = ["gap", "cover", "weighted", "lost", "winRate", "averageWon", "averageCycle", "act", "overdue", "lateTasks", "contactsADay", "undone"];

/** The other figures of the period in one line, each with its change; those that deals or tasks make open them. */
export function FigureLine({ view, days }: { view: PeriodView; days: Days }) {
	const opens = useOpens(days);
	return (
		<dl className="figure-line">
			{SHOWN.flatMap((key) => FIGURES.find((figure) => figure.key === key) ?? []).map((figure) => {
				const value = figure.value(view.figures, view.teamMetrics);
				const words = figureWords(value, figure.unit, view.currency);
				const changed = changeWords(changeOf(figure, view.change), figure.unit, view.currency);
				return (
					<div key={figure.key}>
						<dt>{figure.label}</dt>
						<dd>
							{value !== null ? <Link href={opens.figure(figure.key)}>{words}</Link> : words}
							{figure.key === "act" && view.carried.act > 0 && <span className="second small-text"> and {view.carried.act} carried over</span>}
							{changed && <span className="second small-text"> {changed}</span>}
						</dd>
					</div>
				);
			})}
		</dl>
	);
}
