"use client";
import { memo, type PointerEvent, type RefObject, useRef } from "react";
import { shortMoney } from "@/ui/format";
import type { Picture } from "@/workers/riverModel";
import { type Drawing, placeAt } from "./geometry";
import type { ThreadDrawing } from "./threadDrawing";

interface Props {
	readonly drawing: Drawing;
	readonly picture: Picture;
	readonly stageNames: readonly string[];
	readonly currency: string;
	/** the week the date lies in */
	readonly week: number;
	readonly thread: ThreadDrawing | null;
	readonly line: RefObject<HTMLDivElement | null>;
	readonly flag: RefObject<HTMLDivElement | null>;
	readonly axis: readonly { readonly x: number; readonly label: string }[];
	readonly onDrag: (x: number) => void;
	readonly onDrop: () => void;
	readonly onPoint: (place: { boundary: number; stage: number; height: number } | null) => void;
	readonly onPick: () => void;
}

/** The river, drawn: bands of open stages, streams between them, ways out to either side. The table below says the same. */
export function RiverPicture({ drawing, picture, stageNames, currency, week, thread, line, flag, axis, onDrag, onDrop, onPoint, onPick }: Props) {
	const box = useRef<HTMLDivElement>(null);
	const dragging = useRef(false);
	const spot = (event: PointerEvent) => {
		const { left = 0, top = 0 } = box.current?.getBoundingClientRect() ?? {};
		return { x: event.clientX - left, y: event.clientY - top };
	};
	const { width, height } = drawing.size;
	return (
		<div
			ref={box}
			className="river-picture"
			style={{ width, height }}
			aria-hidden="true"
			onPointerMove={(event) => {
				const { x, y } = spot(event);
				if (dragging.current) onDrag(x);
				else onPoint(placeAt(drawing, x, y));
			}}
			onPointerLeave={() => onPoint(null)}
			onPointerUp={() => {
				if (dragging.current) onDrop();
				dragging.current = false;
			}}
			onClick={onPick}
		>
			<svg width={width} height={height} aria-hidden="true">
				<Ground drawing={drawing} stageNames={stageNames} currency={currency} axis={axis} />
				{picture.weeks.map((one, w) => (
					<Week key={one.start} drawing={drawing} index={w} now={w === week} currency={currency} />
				))}
				{thread && (
					<g className="river-thread">
						<path className="river-casing" d={thread.path} strokeWidth={thread.width + 3} />
						<path d={thread.path} strokeWidth={thread.width} />
						{thread.ends.map((end) => (
							<rect key={end.x} x={end.x - 3} y={end.y - 6} width={6} height={12} />
						))}
					</g>
				)}
			</svg>
			{/* a layer of its own, so that moving it redraws nothing */}
			<div
				ref={line}
				className="river-line"
				onPointerDown={(event) => {
					dragging.current = true;
					box.current?.setPointerCapture(event.pointerId);
				}}
				onClick={(event) => event.stopPropagation()}
			>
				<div className="river-flag" ref={flag} />
			</div>
		</div>
	);
}

const Ground = memo(function Ground({ drawing, stageNames, currency, axis }: Pick<Props, "drawing" | "stageNames" | "currency" | "axis">) {
	const { strips, size, bands, scale } = drawing;
	const unit = scaleUnit(drawing);
	return (
		<g>
			<defs>
				{/* what moves between bands rises out of one and sinks into the other */}
				<Fade id="river-between" colour="var(--ink)" stops={[0, 1, 1, 0]} />
				<Fade id="river-new" colour="var(--card)" stops={[1, 1, 0.6, 0]} />
			</defs>
			{bands.map((band, i) => (
				<g key={band.stage} className={`tone-${Math.min(6, i + 1)}`}>
					<path d={band.path} />
					<text className="river-stage" x={0} y={band.label + 4}>
						{stageNames[band.stage]}
					</text>
				</g>
			))}
			<text className="river-way" x={0} y={strips.won - 2}>
				Won
			</text>
			<text className="river-way" x={0} y={strips.lost + 11}>
				Lost
			</text>
			<text className="river-way" x={0} y={strips.out + 11}>
				{strips.outWords}
			</text>
			{[strips.won, strips.lost, strips.out].map((y) => (
				<line key={y} className="river-base" x1={drawing.xs[0]} x2={drawing.xs.at(-1)} y1={y} y2={y} />
			))}
			{axis.map(({ x, label }) => (
				<text key={label} className="river-axis" x={x} y={size.height - 6} textAnchor="middle">
					{label}
				</text>
			))}
			{unit > 0 && (
				<g className="river-scale" transform="translate(0.5, 1.5)">
					<path d={`M5,0h-5v${round(unit * scale)}h5`} />
					<text x={9} y={(unit * scale) / 2 + 4}>
						{shortMoney(unit, currency)} high
					</text>
				</g>
			)}
		</g>
	);
});

function Fade({ id, colour, stops }: { id: string; colour: string; stops: readonly [number, number, number, number] }) {
	return (
		<linearGradient id={id}>
			{stops.map((opacity, i) => (
				<stop key={OFFSETS[i]} offset={OFFSETS[i]} stopColor={colour} stopOpacity={opacity} />
			))}
		</linearGradient>
	);
}
const OFFSETS = ["0%", "35%", "65%", "100%"];

/** The largest round amount that is at most 26 pixels high. */
function scaleUnit({ scale }: Drawing): number {
	if (!(scale > 0)) return 0;
	const unit = 10 ** Math.floor(Math.log10(26 / scale));
	return unit * ([5, 2].find((times) => times * unit * scale <= 26) ?? 1);
}

const round = (value: number) => Math.round(value * 10) / 10;

const Week = memo(function Week({ drawing, index, now, currency }: { drawing: Drawing; index: number; now: boolean; currency: string }) {
	const streams = drawing.streams[index] ?? [];
	const bars = drawing.bars[index] ?? [];
	return (
		<g className={now ? "river-week river-now" : "river-week"}>
			{streams.map((stream) => (
				<path key={stream.key} className={`stream-${stream.kind}`} d={stream.path} />
			))}
			{bars.map((bar) => (
				<g key={bar.kind} className={`exit-${bar.kind}`}>
					<rect x={bar.x - bar.width / 2} y={bar.top} width={bar.width} height={bar.bottom - bar.top} />
					{bar.label && (
						<text x={bar.label.x} y={bar.label.y} textAnchor="middle">
							{shortMoney(bar.amount, currency)}
						</text>
					)}
				</g>
			))}
		</g>
	);
});
