"use client";
import { memo } from "react";
import { shortDay } from "@/core/time/words";
import { change, shortMoney } from "@/ui/format";
import { Scrolls } from "@/ui/parts/Scrolls";
import { DataTable } from "@/ui/parts/table/DataTable";
import type { PartFigures, Picture, PictureWeek } from "@/workers/riverModel";
import type { RiverView } from "../../server/readRiver";

const ENTERED = ["new", "reopened", "handed-in", "rolled-in", "pulled-in"];
const COLUMNS: readonly { words: string; kinds: readonly string[]; sign: 1 | -1 }[] = [
	{ words: "Came in", kinds: ENTERED, sign: 1 },
	{ words: "Grew", kinds: ["grew"], sign: 1 },
	{ words: "Shrank", kinds: ["shrank"], sign: -1 },
	{ words: "Pushed out", kinds: ["pushed-out"], sign: -1 },
	{ words: "Left in other ways", kinds: ["moved-earlier", "handed-out", "removed"], sign: -1 },
	{ words: "Won", kinds: ["won"], sign: -1 },
	{ words: "Lost", kinds: ["lost"], sign: -1 },
];

const sumOf = (week: PictureWeek, kinds: readonly string[]) => week.steps.reduce((sum, step) => (kinds.includes(step.kind) ? sum + step.amount : sum), 0);

/** The river as a table: each week's steps lead from the open amount before it to the one at its end. */
export function WeeksTable({ picture, view, current, onPick }: { picture: Picture; view: RiverView; current: number; onPick: (day: number) => void }) {
	const { currency, columns } = view;
	return (
		<Scrolls of="Weeks" className="panel p-0 mt-3">
			<table className="table river-table">
				<caption className="visually-hidden">The weeks of the river, the latest first, in {currency}</caption>
				<thead>
					<tr>
						<th>Week of</th>
						{COLUMNS.map((column) => (
							<th key={column.words} className="num">
								{column.words}
							</th>
						))}
						<th className="num">Open at week’s end</th>
						{picture.open.map((stage) => (
							<th key={stage} className="num second">
								{columns.stages[stage]?.name}
							</th>
						))}
						<th>In words</th>
					</tr>
				</thead>
				<tbody>
					{picture.weeks
						.map((week, w) => <WeekRow key={week.start} week={week} view={view} open={picture.open} current={w === current} onPick={onPick} />)
						.reverse()}
				</tbody>
			</table>
		</Scrolls>
	);
}

const WeekRow = memo(function WeekRow({
	week,
	view: { currency },
	open,
	current,
	onPick,
}: {
	week: PictureWeek;
	view: RiverView;
	open: readonly number[];
	current: boolean;
	onPick: (day: number) => void;
}) {
	const figure = (amount: number, sign: 1 | -1) => (amount ? change(sign * amount, currency) : "–");
	return (
		<tr className={current ? "river-row" : ""} aria-current={current ? "date" : undefined}>
			<td className="text-nowrap">
				<button type="button" className="plain-button trend-day" onClick={() => onPick(week.end)}>
					{shortDay(week.start)}
				</button>
			</td>
			{COLUMNS.map(({ words, kinds, sign }) => (
				<td key={words} className="num">
					{figure(sumOf(week, kinds), sign)}
				</td>
			))}
			<td className="num">
				<b>{shortMoney(week.open, currency)}</b> <span className="third">{week.count}</span>
			</td>
			{open.map((stage) => (
				<td key={stage} className="num second">
					{week.bands[stage] ? shortMoney(week.bands[stage], currency) : "–"}
				</td>
			))}
			<td className="river-words small-text">{week.words.length ? week.words.join("; ") : "No changes."}</td>
		</tr>
	);
});

/** The parts of the chosen field over the whole span; picking one cuts the river to it. */
export function PartsTable({
	parts,
	field,
	chosen,
	currency,
	seen,
	onPick,
}: {
	parts: readonly PartFigures[];
	field: string;
	chosen: string | null;
	currency: string;
	seen: string;
	onPick: (part: string | null) => void;
}) {
	// Long: one table, its columns in their order.
	const money = (amount: number) => (amount ? shortMoney(amount, currency) : "–");
	const figure = (key: "pushed" | "start" | "end" | "won" | "lost", words: string, className = "") => ({
		key,
		label: words,
		num: true,
		className,
		by: (part: PartFigures) => part[key],
		cell: (part: PartFigures) => money(part[key]),
	});
	return (
		<>
			<DataTable
				of={`The span by ${field}, in ${currency}`}
				className="panel p-0 mt-3"
				tableClass=""
				rows={parts}
				rowKey={({ part }) => part}
				rowClass={({ part }) => (part === chosen ? "river-row" : undefined)}
				columns={[
					{
						key: "part",
						label: `By ${field}`,
						by: ({ part }) => part,
						cell: ({ part }) => (
							<button type="button" className="plain-button trend-day" aria-pressed={part === chosen} onClick={() => onPick(part === chosen ? null : part)}>
								{part}
							</button>
						),
					},
					{ key: "pushes", label: "Pushes", num: true, by: ({ pushes }) => pushes, cell: ({ pushes }) => pushes || "–" },
					{
						key: "month",
						label: "At month end",
						num: true,
						by: ({ atMonthEnd }) => atMonthEnd,
						cell: ({ atMonthEnd }) => (atMonthEnd ? <b>{atMonthEnd}</b> : "–"),
					},
					figure("pushed", "Amount pushed"),
					figure("start", "Open before"),
					figure("end", "Open at the end"),
					figure("won", "Won", "gained"),
					figure("lost", "Lost", "worse"),
				]}
			/>
			<p className="tiny second px-2 mb-2">
				A push is a close date moved later. At month end: in the last five working days of a month. Deals are counted with the {field} they have {seen}.
			</p>
		</>
	);
}
