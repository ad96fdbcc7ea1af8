"use client";
import { useEffect, useState } from "react";
import { Bar, BarChart, ResponsiveContainer, XAxis, YAxis } from "recharts";
import { plural } from "@/core/words/grammar";
import { money, shortMoney } from "@/ui/format";
import type { ChangedStep } from "../server/changesView";

interface Column {
	readonly kind: string;
	readonly name: string;
	readonly range: [number, number];
	readonly label: string;
	readonly tone: "end" | "in" | "out" | "won";
	/** the level the next column starts from: the range's lower end, or its upper one */
	readonly endsLow: boolean;
	/** the whole of it, as a sentence */
	readonly words: string;
}

/** Each step as a range from where the running total stood to where it went. */
function columnsOf(steps: readonly ChangedStep[], currency: string): Column[] {
	let level = 0;
	return steps.map((step) => {
		const end = step.kind === "opening" || step.kind === "closing";
		const next = end ? step.amount : level + (step.leaves ? -step.amount : step.amount);
		const range: [number, number] = end ? [0, step.amount] : [Math.min(level, next), Math.max(level, next)];
		level = next;
		const sign = end ? "" : step.leaves ? "−" : "+";
		return {
			kind: step.kind,
			name: step.name,
			range,
			endsLow: step.leaves,
			label: `${sign}${shortMoney(step.amount, currency)}`,
			tone: end ? "end" : step.kind === "won" ? "won" : step.leaves ? "out" : "in",
			words: `${step.name}: ${sign}${money(step.amount, currency)}, ${plural(step.count, "deal")}`,
		};
	});
}

/** Where the axis starts: at zero, or at a round figure below the lowest step when that leaves too much empty. */
function floorOf(columns: readonly Column[]): number {
	const low = Math.min(...columns.map((c) => (c.tone === "end" ? c.range[1] : c.range[0])));
	const high = Math.max(...columns.map((c) => c.range[1]));
	if (low < high * 0.5) return 0;
	const unit = 10 ** Math.floor(Math.log10(high)) / 2;
	return Math.max(0, Math.floor((low - (high - low) * 0.6) / unit) * unit);
}

interface ShapeProps {
	readonly x?: number;
	readonly y?: number;
	readonly width?: number;
	readonly height?: number;
	readonly payload?: Column;
	readonly index?: number;
}

/** The bridge, drawn. It is a picture beside the list of steps, which says the same and is read by screen readers. */
export function BridgeChart({
	steps,
	currency,
	chosen,
	onPick,
}: {
	steps: readonly ChangedStep[];
	currency: string;
	chosen: string | null;
	onPick: (kind: string) => void;
}) {
	const columns = columnsOf(steps, currency);
	const floor = floorOf(columns);
	const [ready, setReady] = useState(false);
	useEffect(() => setReady(true), []);
	const draw = ({ x = 0, y = 0, width = 0, height = 0, payload, index = 0 }: ShapeProps) => {
		if (!payload) return <g />;
		const level = payload.endsLow ? y + height : y;
		const gap = width * 0.42;
		return (
			<g className={`step-bar step-${payload.tone} ${chosen && chosen !== payload.kind ? "step-dim" : ""}`} onClick={() => onPick(payload.kind)}>
				<title>{payload.words}</title>
				<rect x={x} y={y} width={width} height={Math.max(1.5, height)} />
				<text x={x + width / 2} y={y - 6} textAnchor="middle">
					{payload.label}
				</text>
				{index < columns.length - 1 && <line x1={x + width} x2={x + width + gap} y1={level} y2={level} />}
			</g>
		);
	};
	return (
		<figure className="bridge" aria-hidden="true">
			{ready && (
				<ResponsiveContainer width="100%" height="100%" minHeight={286}>
					<BarChart
						data={columns.map((c) => ({ ...c, range: [Math.max(c.range[0], floor), c.range[1]] }))}
						margin={{ top: 24, right: 8, bottom: 0, left: 8 }}
						barCategoryGap="15%"
						accessibilityLayer={false}
					>
						<XAxis dataKey="name" tickLine={false} axisLine={false} interval={0} tick={{ fontSize: 12 }} />
						<YAxis hide domain={[floor, "dataMax"]} />
						<Bar dataKey="range" isAnimationActive={false} shape={draw as never} />
					</BarChart>
				</ResponsiveContainer>
			)}
			{floor > 0 && <figcaption className="tiny second">The axis starts at {shortMoney(floor, currency)}, not at zero.</figcaption>}
		</figure>
	);
}
