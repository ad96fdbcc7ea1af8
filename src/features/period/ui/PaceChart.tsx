"use client";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import { Area, ComposedChart, Line, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { money, nearDate, shortMoney } from "@/ui/format";
import type { PeriodView } from "../server/readPeriod";
import type { Band } from "./Beam";
import { type Days, useOpens } from "./opens";

interface Props {
	readonly view: PeriodView;
	readonly days: Days;
	/** between which totals it ends in eight of ten cases; null where there is no outlook */
	readonly band?: Band | null;
}

const SERIES = { now: "pace-now", previous: "pace-previous", yearAgo: "pace-year" } as const;

/** What was won by each working day, against the period before and a year ago. A day opens what was won on it. */
export function PaceChart({ view, days, band = null }: Props) {
	const { pace, currency } = view;
	const opens = useOpens(days);
	// Charts measure what they stand in, which there is in a browser alone.
	const [ready, setReady] = useState(false);
	useEffect(() => setReady(true), []);
	const wonOn = (k: number) => opens.wonOn(k === 0 ? days.from : (pace.days[k] ?? days.from), pace.days[k + 1] ?? opens.dayAfter(days.to));
	const now = pace.series[0]?.amounts ?? [];
	const wins = now
		.flatMap((amount, k) => (amount > (now[k - 1] ?? 0) ? [{ k, day: pace.days[k] ?? "", amount: amount - (now[k - 1] ?? 0), sum: amount }] : []))
		.reverse();
	return (
		<section className="panel pace" aria-label="Pace">
			<h3>{paceWords(view)}</h3>
			{/* Its room is there before it is drawn, so that nothing moves under a finger. */}
			<div aria-hidden="true" className="pace-drawing">
				{ready && <Drawing view={view} days={days} band={band} wonOn={wonOn} />}
			</div>
			<Legend view={view} />
			<details className="small-text">
				<summary>Won day by day</summary>
				<ul className="rows">
					{wins.map(({ k, day, amount, sum }) => (
						<li key={k}>
							<Link href={wonOn(k)}>
								{nearDate(day, days.seen)} <span className="second">working day {k}</span>
							</Link>
							<span className="num">
								{money(amount, currency)} <span className="second">· {shortMoney(sum, currency)} by then</span>
							</span>
						</li>
					))}
					{!wins.length && <li className="second">Nothing won yet.</li>}
				</ul>
			</details>
		</section>
	);
}

/** How far it is ahead or behind; on the same amount, or before anything is won, there is nothing to say. */
function paceWords({ state, pace, figures, currency }: PeriodView): string {
	const ahead = figures.won.amount - pace.previous;
	const before = pace.series[1]?.label;
	if (state !== "running" || (!figures.won.amount && !pace.previous)) return "Won by working day";
	if (!ahead) return `As much won as in ${before} on the same working day`;
	return `${shortMoney(Math.abs(ahead), currency)} ${ahead > 0 ? "ahead of" : "behind"} ${before} on the same working day`;
}

interface DrawingProps {
	readonly view: PeriodView;
	readonly days: Days;
	readonly band: Band | null;
	/** where a day’s wins are shown, by its number */
	readonly wonOn: (k: number) => string;
}

/** The lines, the target and today; a press opens what was won on a day. */
function Drawing({ view, days, band, wonOn }: DrawingProps) {
	// Long: one drawing, its parts from back to front.
	const { pace, figures, currency } = view;
	const router = useRouter();
	const data = pace.days.map((day, k) => ({
		k,
		day,
		...fanAt(view, band, k),
		...Object.fromEntries(pace.series.map(({ key, amounts }) => [key, amounts[k] ?? null])),
	}));
	return (
		<ResponsiveContainer width="100%" height={215}>
			<ComposedChart
				data={data}
				margin={{ top: 14, right: 12, bottom: 0, left: 0 }}
				accessibilityLayer={false}
				onClick={(state) => {
					const k = Number(state?.activeLabel);
					if (Number.isInteger(k) && k <= pace.workingDay) router.push(wonOn(k));
				}}
			>
				<XAxis
					dataKey="k"
					type="number"
					domain={[0, pace.workingDays]}
					tickLine={false}
					axisLine={false}
					tick={{ fontSize: 12 }}
					tickCount={7}
					allowDecimals={false}
					tickFormatter={(k: number) => (pace.days[k] ? nearDate(pace.days[k], days.seen) : "")}
				/>
				<YAxis tickLine={false} axisLine={false} width={58} tick={{ fontSize: 12 }} tickFormatter={(value: number) => shortMoney(value, currency)} />
				<Tooltip
					cursor={{ className: "pace-cursor" }}
					isAnimationActive={false}
					content={({ payload }) => <PaceTip row={payload?.[0]?.payload} view={view} days={days} />}
				/>
				{figures.target !== null && (
					<ReferenceLine
						y={figures.target}
						ifOverflow="extendDomain"
						className="pace-target"
						label={{ value: `target ${shortMoney(figures.target, currency)}`, position: "insideBottomRight", fontSize: 12 }}
					/>
				)}
				{view.state === "running" && (
					<ReferenceLine
						x={pace.workingDay}
						className="pace-today"
						label={{ value: `day ${pace.workingDay} of ${pace.workingDays}`, position: "insideTopLeft", fontSize: 12 }}
					/>
				)}
				{band && (
					<>
						<Area dataKey="fan" className="pace-fan" type="linear" stroke="none" isAnimationActive={false} activeDot={false} />
						<Line dataKey="likely" className="pace-likely" type="linear" dot={false} activeDot={false} isAnimationActive={false} />
					</>
				)}
				{[...pace.series].reverse().map(({ key, label }) => (
					<Line key={key} dataKey={key} name={label} className={SERIES[key]} type="stepAfter" dot={false} activeDot={false} isAnimationActive={false} />
				))}
			</ComposedChart>
		</ResponsiveContainer>
	);
}

/** What each line is, and what it comes to. */
function Legend({ view: { pace, figures, currency } }: { view: PeriodView }) {
	const sums = { now: figures.won.amount, previous: pace.previous, yearAgo: pace.yearAgo };
	return (
		<p className="pace-legend small-text mb-1">
			{pace.series.map(({ key, label }) => (
				<span key={key}>
					<svg width={22} height={11} className={SERIES[key]} aria-hidden="true">
						<path d="M0,5.5h22" />
					</svg>{" "}
					{key === "yearAgo" ? `a year ago, ${label}` : label} <b className="num">{shortMoney(sums[key], currency)}</b>
				</span>
			))}
		</p>
	);
}

/** The fan from what is won today to where the period ends: only its end is foretold, so it is drawn straight. */
function fanAt({ pace, figures, state }: PeriodView, band: Band | null, k: number): { fan?: readonly [number, number]; likely?: number } {
	if (!band || state !== "running" || k < pace.workingDay) return {};
	const part = pace.workingDays > pace.workingDay ? (k - pace.workingDay) / (pace.workingDays - pace.workingDay) : 1;
	const to = (end: number) => Math.round(figures.won.amount + part * (end - figures.won.amount));
	return { fan: [to(band.low), to(band.high)], likely: to(band.middle) };
}

function PaceTip({ row, view, days }: { row: { k: number; day: string } | undefined; view: PeriodView; days: Days }) {
	if (!row) return null;
	return (
		<div className="trend-tip">
			<b>
				Working day {row.k}, {nearDate(row.day, days.seen)}
			</b>
			{view.pace.series.map(({ key, label, amounts }) =>
				amounts[row.k] === undefined ? null : (
					<div key={key}>
						{label}: {money(amounts[row.k] ?? 0, view.currency)}
					</div>
				),
			)}
			{view.figures.target !== null && <div>target: {money(view.figures.target, view.currency)}</div>}
		</div>
	);
}
