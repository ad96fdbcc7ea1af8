"use client";
import { useRouter, useSearchParams } from "next/navigation";
import { parseAsString, useQueryState } from "nuqs";
import { useEffect, useState, useTransition } from "react";
import { Form } from "react-bootstrap";
import { Bar, ComposedChart, Line, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { change, money, nearDate, shortMoney } from "@/ui/format";
import type { FrameView } from "@/ui/frame/view";
import type { TrendView as View } from "../server/readTrend";

/** from pale to dusk: the later a deal stands, the darker */
const TONES = ["tone-1", "tone-2", "tone-3", "tone-4", "tone-5", "tone-6"];

/** The open amount at each week's end, with what was won and lost so far; a week opens that day. */
export function TrendView({ view, frame }: { view: View; frame: FrameView["sentence"] }) {
	const [waiting, start] = useTransition();
	const [, setBy] = useQueryState("by", parseAsString.withOptions({ shallow: false, history: "replace", startTransition: start }));
	const [ready, setReady] = useState(false);
	useEffect(() => setReady(true), []);
	const router = useRouter();
	const params = useSearchParams();
	const names = view.parts;
	const values = (point: View["points"][number]) => point.parts;
	const [first, last] = [view.points[0], view.points.at(-1)];
	const moved = (last?.open ?? 0) - (first?.open ?? 0);
	const open = (day: string) => {
		const next = new URLSearchParams([...params].filter(([name]) => ["whose", "due"].includes(name)));
		if (day !== frame.seen.day) next.set("seen", day);
		router.push(`/deals?${next}`);
	};
	const data = view.points.map((point) => ({
		day: point.day,
		won: point.won,
		name: nearDate(point.day, frame.seen.day),
		...Object.fromEntries(values(point).map((value, i) => [`v${i}`, value])),
	}));
	return (
		<section className={waiting ? "waiting" : ""} aria-busy={waiting}>
			<div className="d-flex justify-content-between align-items-baseline gap-3 flex-wrap mb-2">
				<h2>
					Open pipeline {moved < 0 ? "fell" : "grew"} by {shortMoney(Math.abs(moved), view.currency)} in {view.points.length - 1} weeks
					{view.target !== null && (
						<span className="second fs-6">
							{" "}
							· won {shortMoney(last?.won ?? 0, view.currency)} so far, of a target of {shortMoney(view.target, view.currency)}
						</span>
					)}
				</h2>
				<Form.Select
					size="sm"
					className="w-auto no-print"
					aria-label="Bands"
					value={view.by}
					onChange={(event) => void setBy(event.target.value === "stage" ? null : event.target.value)}
				>
					{view.fields.map((field) => (
						<option key={field.key} value={field.key}>
							by {field.words}
						</option>
					))}
				</Form.Select>
			</div>
			<div className="panel trend" aria-hidden="true">
				{ready && (
					<ResponsiveContainer width="100%" height={300}>
						<ComposedChart data={data} margin={{ top: 8, right: 8, bottom: 0, left: 8 }} barCategoryGap="18%" accessibilityLayer={false}>
							<XAxis dataKey="name" tickLine={false} axisLine={false} tick={{ fontSize: 12 }} />
							<YAxis tickLine={false} axisLine={false} width={64} tick={{ fontSize: 12 }} tickFormatter={(value: number) => shortMoney(value, view.currency)} />
							<Tooltip
								cursor={false}
								isAnimationActive={false}
								content={({ label, payload }) =>
									payload?.length ? (
										<div className="trend-tip">
											<b>{label}</b>
											{[...payload].reverse().map((part) => (
												<div key={String(part.dataKey)}>
													{part.name}: {money(Number(part.value), view.currency)}
												</div>
											))}
										</div>
									) : null
								}
							/>
							{view.target !== null && (
								<ReferenceLine
									y={view.target}
									ifOverflow="extendDomain"
									className="trend-target"
									label={{ value: `Target ${shortMoney(view.target, view.currency)}`, position: "insideTopLeft", fontSize: 12 }}
								/>
							)}
							{names.map((name, i) => (
								<Bar
									key={name}
									dataKey={`v${i}`}
									name={name}
									stackId="open"
									className={TONES[i % TONES.length] as string}
									isAnimationActive={false}
									onClick={(_, index) => open(view.points[index]?.day ?? frame.seen.day)}
								/>
							))}
							<Line dataKey="won" name="Won so far" className="trend-won" type="linear" dot={false} activeDot={false} isAnimationActive={false} />
						</ComposedChart>
					</ResponsiveContainer>
				)}
				<div className="trend-legend small-text">
					{names.map((name, i) => (
						<span key={name}>
							<svg width={11} height={11} className={TONES[i % TONES.length]} aria-hidden="true">
								<rect width={11} height={11} />
							</svg>{" "}
							{name}
						</span>
					))}
					<span>
						<svg width={18} height={11} className="trend-won" aria-hidden="true">
							<path d="M0,5.5h18" />
						</svg>{" "}
						Won so far
					</span>
				</div>
			</div>
			<div className="panel p-0 changed-scroll mt-3">
				<table className="table">
					<thead>
						<tr>
							<th>Week’s end</th>
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
											{nearDate(point.day, frame.seen.day)}
										</button>
									</td>
									<td className="num">{point.count}</td>
									<td className="num">{shortMoney(point.open, view.currency)}</td>
									<td className={`num ${before && point.open < before.open ? "worse" : "gained"}`}>
										{before ? change(point.open - before.open, view.currency) : ""}
									</td>
									<td className="num">{shortMoney(point.weighted, view.currency)}</td>
									{values(point).map((value, n) => (
										<td key={names[n]} className="num second">
											{value ? shortMoney(value, view.currency) : "–"}
										</td>
									))}
									<td className="num">{shortMoney(point.won, view.currency)}</td>
									<td className="num">{shortMoney(point.lost, view.currency)}</td>
								</tr>
							);
						})}
					</tbody>
				</table>
			</div>
		</section>
	);
}
