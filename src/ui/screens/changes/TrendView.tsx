"use client";
import { useRouter, useSearchParams } from "next/navigation";
import { parseAsStringLiteral, useQueryState } from "nuqs";
import { useEffect, useState } from "react";
import { Form } from "react-bootstrap";
import { Bar, BarChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import type { TrendView as View } from "@/usecases/changes/readTrend";
import { change, money, nearDate, shortMoney } from "../../format";
import type { FrameView } from "../frame/view";

const BY = ["stage", "category"] as const;
/** from pale to dusk: the later a deal stands, the darker */
const TONES = ["tone-1", "tone-2", "tone-3", "tone-4", "tone-5", "tone-6"];

/** The open amount at each week's end, with what was won and lost so far; a week opens that day. */
export function TrendView({ view, frame }: { view: View; frame: FrameView["sentence"] }) {
	const [by, setBy] = useQueryState("by", parseAsStringLiteral(BY).withDefault("stage").withOptions({ shallow: true, history: "replace" }));
	const [ready, setReady] = useState(false);
	useEffect(() => setReady(true), []);
	const router = useRouter();
	const params = useSearchParams();
	const names = by === "stage" ? view.byStage : view.byCategory;
	const values = (point: View["points"][number]) => (by === "stage" ? point.stages : point.categories);
	const [first, last] = [view.points[0], view.points.at(-1)];
	const moved = (last?.open ?? 0) - (first?.open ?? 0);
	const open = (day: string) => {
		const next = new URLSearchParams([...params].filter(([name]) => ["whose", "due"].includes(name)));
		if (day !== frame.seen.day) next.set("seen", day);
		router.push(`/deals?${next}`);
	};
	const data = view.points.map((point) => ({
		day: point.day,
		name: nearDate(point.day, frame.seen.day),
		...Object.fromEntries(values(point).map((value, i) => [`v${i}`, value])),
	}));
	return (
		<section>
			<div className="d-flex justify-content-between align-items-baseline gap-3 flex-wrap mb-2">
				<h2>
					Open pipeline {moved < 0 ? "fell" : "grew"} by {shortMoney(Math.abs(moved), view.currency)} in {view.points.length - 1} weeks
				</h2>
				<Form.Select
					size="sm"
					className="w-auto no-print"
					aria-label="Bands"
					value={by}
					onChange={(event) => void setBy(event.target.value as (typeof BY)[number])}
				>
					<option value="stage">by stage</option>
					<option value="category">by category</option>
				</Form.Select>
			</div>
			<div className="panel trend" aria-hidden="true">
				{ready && (
					<ResponsiveContainer width="100%" height={300}>
						<BarChart data={data} margin={{ top: 8, right: 8, bottom: 0, left: 8 }} barCategoryGap="18%" accessibilityLayer={false}>
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
						</BarChart>
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
