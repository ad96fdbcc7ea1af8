"use client";
import { useEffect, useState } from "react";
import { Bar, BarChart, ResponsiveContainer, XAxis, YAxis } from "recharts";
import { shortMoney } from "@/ui/format";
import type { ChangedStep } from "../server/changesView";
import { type BridgeColumn, bridgeColumns } from "../table/bridgeColumns";

/** Where the axis starts: at zero, or at a round figure below the lowest step when that leaves too much empty. */
function floorOf(columns: readonly BridgeColumn[]): number {
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
	readonly payload?: BridgeColumn;
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
	const columns = bridgeColumns(steps, currency);
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
