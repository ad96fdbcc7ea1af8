"use client";
import { useEffect, useState } from "react";
import { Bar, ComposedChart, Line, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { money, nearDate, shortMoney } from "@/ui/format";
import type { TrendView as View } from "../server/readTrend";

/** from pale to dusk: the later a deal stands, the darker */
const TONES = ["tone-1", "tone-2", "tone-3", "tone-4", "tone-5", "tone-6"];

/** The open amount of each week's end in bands, with what was won so far and the target. A week opens its day. */
export function TrendChart({ view, seen, open }: { view: View; seen: string; open: (day: string) => void }) {
	// Charts measure what they stand in, which there is in a browser alone.
	const [ready, setReady] = useState(false);
	useEffect(() => setReady(true), []);
	const names = view.parts;
	const data = view.points.map((point) => ({
		day: point.day,
		won: point.won,
		name: nearDate(point.day, seen),
		...Object.fromEntries(point.parts.map((value, i) => [`v${i}`, value])),
	}));
	return (
		<div className="panel trend" aria-hidden="true">
			{ready && (
				<ResponsiveContainer width="100%" height={300}>
					<ComposedChart data={data} margin={{ top: 8, right: 8, bottom: 0, left: 8 }} barCategoryGap="18%" accessibilityLayer={false}>
						<XAxis dataKey="name" tickLine={false} axisLine={false} tick={{ fontSize: 12 }} />
						<YAxis tickLine={false} axisLine={false} width={64} tick={{ fontSize: 12 }} tickFormatter={(value: number) => shortMoney(value, view.currency)} />
						<Tooltip cursor={false} isAnimationActive={false} content={(shown) => <Tip {...shown} currency={view.currency} />} />
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
								onClick={(_, index) => open(view.points[index]?.day ?? seen)}
							/>
						))}
						<Line dataKey="won" name="Won so far" className="trend-won" type="linear" dot={false} activeDot={false} isAnimationActive={false} />
					</ComposedChart>
				</ResponsiveContainer>
			)}
			<Legend names={names} />
		</div>
	);
}

interface TipProps {
	readonly label?: unknown;
	readonly payload?: readonly { readonly dataKey?: unknown; readonly name?: unknown; readonly value?: unknown }[];
	readonly currency: string;
}

function Tip({ label, payload, currency }: TipProps) {
	if (!payload?.length) return null;
	return (
		<div className="trend-tip">
			<b>{String(label)}</b>
			{[...payload].reverse().map((part) => (
				<div key={String(part.dataKey)}>
					{String(part.name)}: {money(Number(part.value), currency)}
				</div>
			))}
		</div>
	);
}

function Legend({ names }: { names: readonly string[] }) {
	return (
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
	);
}
