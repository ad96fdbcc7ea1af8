"use client";
import { useEffect, useState } from "react";
import { Area, ComposedChart, Line, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import type { CloseAccount } from "@/core/period/closeAccount";
import { dayNumber, longDate, money, shortDate, shortMoney } from "@/ui/format";

interface Point {
	readonly at: number;
	readonly day: string;
	readonly won?: number;
	readonly commit?: number;
	readonly band?: readonly [number, number];
	readonly middle?: number;
}

/** Points of both lists in the order of their days. */
const pointsOf = ({ points, outlooks, won, to }: CloseAccount): Point[] =>
	[
		...points.map(({ day, won: sum, commit }): Point => ({ at: dayNumber(day), day, won: sum, commit })),
		...outlooks.map(({ day, low, middle, high }): Point => ({ at: dayNumber(day), day, band: [low, high], middle })),
		// The band closes on what came.
		...(outlooks.length ? [{ at: dayNumber(to), day: to, band: [won.amount, won.amount] as const, middle: won.amount }] : []),
	].sort((a, b) => a.at - b.at);

/** What was won and in commit week by week, and between which totals it was to end, as foretold on the days marked. */
export function Said({ account, waiting }: { account: CloseAccount; waiting: boolean }) {
	const { currency, target, outlooks, committed } = account;
	// Charts measure what they stand in, which there is in a browser alone.
	const [ready, setReady] = useState(false);
	useEffect(() => setReady(true), []);
	return (
		<section className="panel" aria-label="What was said, and what came">
			<h3>What was said, and what came</h3>
			<div className="close-chart" aria-hidden="true">
				{ready && <Drawing account={account} />}
			</div>
			<p className="close-legend small-text mb-1">
				<span className="legend-won">won {shortMoney(account.won.amount, currency)}</span>
				<span className="legend-commit">in commit; on the first day {shortMoney(committed.said.amount, currency)}</span>
				{outlooks.length > 0 && <span className="legend-band">where it was to end in eight of ten cases</span>}
				{target !== null && <span className="legend-target">target {shortMoney(target, currency)}</span>}
			</p>
			<details className="small-text">
				<summary>Outlook by outlook</summary>
				<ul className="rows">
					{outlooks.map(({ day, low, middle, high }) => (
						<li key={day}>
							<span>
								{longDate(day)}: {money(low, currency)} to {money(high, currency)}
							</span>
							<span className="num">most likely {money(middle, currency)}</span>
						</li>
					))}
					{!outlooks.length && <li className="second">{waiting ? "Being computed …" : "There was none: too few past periods were known."}</li>}
				</ul>
			</details>
		</section>
	);
}

function Drawing({ account }: { account: CloseAccount }) {
	const { currency, target } = account;
	const data = pointsOf(account);
	return (
		<ResponsiveContainer width="100%" height={300}>
			<ComposedChart data={data} margin={{ top: 14, right: 12, bottom: 0, left: 0 }} accessibilityLayer={false}>
				<XAxis
					dataKey="at"
					type="number"
					domain={["dataMin", "dataMax"]}
					tickLine={false}
					axisLine={false}
					tick={{ fontSize: 12 }}
					ticks={account.points.filter((_, i, { length }) => i === 0 || i === length - 1 || i % 4 === 0).map(({ day }) => dayNumber(day))}
					tickFormatter={(at: number) => shortDate(data.find((one) => one.at === at)?.day ?? null)}
				/>
				<YAxis tickLine={false} axisLine={false} width={58} tick={{ fontSize: 12 }} tickFormatter={(value: number) => shortMoney(value, currency)} />
				<Tooltip isAnimationActive={false} content={({ payload }) => <Tip point={payload?.[0]?.payload} currency={currency} />} />
				{target !== null && <ReferenceLine y={target} ifOverflow="extendDomain" className="close-target" />}
				<Area dataKey="band" className="close-band" type="linear" stroke="none" connectNulls isAnimationActive={false} activeDot={false} />
				<Line dataKey="middle" className="close-middle" type="linear" connectNulls dot={false} activeDot={false} isAnimationActive={false} />
				<Line dataKey="commit" className="close-commit" type="stepAfter" connectNulls dot={false} activeDot={false} isAnimationActive={false} />
				<Line dataKey="won" className="close-won" type="stepAfter" connectNulls dot={false} activeDot={false} isAnimationActive={false} />
			</ComposedChart>
		</ResponsiveContainer>
	);
}

function Tip({ point, currency }: { point: Point | undefined; currency: string }) {
	if (!point) return null;
	return (
		<div className="close-tip">
			<b>{longDate(point.day)}</b>
			{point.won !== undefined && <div>won: {money(point.won, currency)}</div>}
			{point.commit !== undefined && <div>in commit: {money(point.commit, currency)}</div>}
			{point.band && (
				<div>
					outlook: {money(point.band[0], currency)} to {money(point.band[1], currency)}
				</div>
			)}
		</div>
	);
}
