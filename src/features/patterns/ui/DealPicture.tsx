"use client";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { type PointerEvent, useMemo, useState } from "react";
import type { DealRow } from "@/features/deals/table/row";
import type { DrawnDeals } from "@/features/deals/ui/slots";
import { dayNumber, nearDate, shortMoney } from "@/ui/format";
import { useWidth } from "@/ui/parts/useWidth";
import { useRun } from "@/ui/run";
import { layoutOf, type PictureDeal, pressing, type Spot, within } from "../table/dealPicture";
import { DealMark, PictureKey } from "./DealMark";
import { pressingWords } from "./pressingWords";
import { useSentenceOfAddress } from "./useOutlook";
import "./picture.css";

const LOOK = 2000;
/** pixels that a pointer may tremble in a click */
const CLICK = 4;

/** The chances of the deals, by comparables where the past says any, else of their stages. */
function useChances(rows: readonly DealRow[]): { deals: readonly PictureDeal[]; underway: boolean } {
	const run = useRun();
	const sentence = useSentenceOfAddress();
	const newest = rows.reduce((most, { versionId }) => Math.max(most, versionId), 0);
	const { data } = useQuery({
		queryKey: ["chances", sentence, newest],
		queryFn: async () => {
			const outcome = await run("patterns.chancesHere", sentence);
			if (!outcome.ok) throw new Error(outcome.detail);
			return outcome.result;
		},
		retry: false,
		placeholderData: keepPreviousData,
		refetchInterval: ({ state }) => (state.data?.underway ? LOOK : false),
	});
	return useMemo(() => {
		const chances = data?.chances ?? {};
		const deals = rows.map(({ id, name, account, ownerShort, amount, close, level, probability }): PictureDeal => {
			const chance = chances[id];
			return {
				...{ id, name, account, owner: ownerShort, amount, close, level: level as PictureDeal["level"] },
				chance: chance ?? probability,
				by: chance === undefined ? "stage" : "comparables",
			};
		});
		return { deals, underway: !data || data.underway };
	}, [rows, data]);
}

/** Each open deal at its close date and its chance, as large as its amount, its lamp by its form; a rectangle drawn over some marks them. */
export function DealPicture({ rows, currency, today, selected, here, onOpen, onMark }: DrawnDeals) {
	const { deals, underway } = useChances(rows);
	const [box, width] = useWidth();
	const height = width < 560 ? 280 : 340;
	const layout = useMemo(() => layoutOf(deals, dayNumber(today), Math.max(320, width), height), [deals, today, width, height]);
	const first = useMemo(() => pressing(deals, dayNumber(today)), [deals, today]);
	const [over, setOver] = useState<Spot | null>(null);
	const shown = over ?? layout.spots.find(({ deal }) => deal.id === here) ?? null;
	return (
		<figure ref={box} className="panel deal-picture">
			<figcaption className="picture-says">{pressingWords(first, today, currency)}</figcaption>
			{width > 0 && (
				<Plot
					{...{ layout, selected, here, today, onOpen, onMark, setOver }}
					named={new Set(first.map(({ id }) => id))}
					words={`${deals.length} open deals by close date and chance. ${pressingWords(first, today, currency)}`}
					size={[Math.max(320, width), height]}
				/>
			)}
			<p className="tiny second mb-1 picture-about" aria-live="polite">
				{shown ? aboutWords(shown.deal, today, currency) : "Draw a rectangle over deals to select them; click one to open it."}
				{underway && " The chances are being computed; until then they are those of the stages."}
			</p>
			<PictureKey />
		</figure>
	);
}

const aboutWords = ({ name, account, owner, amount, close, chance, by }: PictureDeal, today: string, currency: string) =>
	`${name}, ${account}, ${owner}: ${shortMoney(amount, currency)}, ${close ? nearDate(close, today) : "no close date"}, chance ${Math.round(chance * 100)}% ${by === "comparables" ? "by comparable deals" : "by its stage"}`;

interface PlotProps extends Pick<DrawnDeals, "selected" | "here" | "today" | "onOpen" | "onMark"> {
	readonly layout: ReturnType<typeof layoutOf>;
	readonly named: ReadonlySet<string>;
	readonly words: string;
	readonly size: readonly [width: number, height: number];
	readonly setOver: (spot: Spot | null) => void;
}

interface Point {
	readonly x: number;
	readonly y: number;
}

const pointOf = (event: PointerEvent<SVGSVGElement>): Point => {
	const { left, top } = event.currentTarget.getBoundingClientRect();
	return { x: event.clientX - left, y: event.clientY - top };
};

/** The deal under a point: of several the one that lies on top. */
const at = (spots: readonly Spot[], { x, y }: Point) => spots.findLast((spot) => Math.hypot(spot.x - x, spot.y - y) <= Math.max(spot.r, 8)) ?? null;

/** Drawing a rectangle with the pointer, which marks what lies in it; Shift adds to what is marked. A click opens a deal. */
function useBrush(spots: readonly Spot[], { selected, onOpen, onMark, setOver }: Pick<PlotProps, "selected" | "onOpen" | "onMark" | "setOver">) {
	const [from, setFrom] = useState<Point | null>(null);
	const [to, setTo] = useState<Point | null>(null);
	const stop = () => {
		setFrom(null);
		setTo(null);
	};
	const handlers = {
		onPointerDown: (event: PointerEvent<SVGSVGElement>) => {
			if (event.button !== 0) return;
			event.currentTarget.setPointerCapture(event.pointerId);
			setFrom(pointOf(event));
		},
		onPointerMove: (event: PointerEvent<SVGSVGElement>) => {
			const here = pointOf(event);
			if (from) setTo(here);
			else setOver(at(spots, here));
		},
		onPointerUp: (event: PointerEvent<SVGSVGElement>) => {
			if (!from) return;
			const end = pointOf(event);
			stop();
			if (Math.hypot(end.x - from.x, end.y - from.y) > CLICK) {
				const found = within(spots, from, end);
				onMark(event.shiftKey ? [...new Set([...selected, ...found])] : found);
			} else {
				const spot = at(spots, end);
				if (spot) onOpen(spot.deal.id);
				else onMark([]);
			}
		},
		onPointerCancel: stop,
		onPointerLeave: () => setOver(null),
	};
	const box = from && to ? { x: Math.min(from.x, to.x), y: Math.min(from.y, to.y), width: Math.abs(to.x - from.x), height: Math.abs(to.y - from.y) } : null;
	return { handlers, box };
}

function Plot({ layout, selected, here, onOpen, onMark, setOver, named, words, size: [width, height] }: PlotProps) {
	const { spots, weeks, strips, chances, plot, today } = layout;
	const { handlers, box } = useBrush(spots, { selected, onOpen, onMark, setOver });
	return (
		<svg className="picture-plot" role="img" aria-label={words} width={width} height={height} {...handlers}>
			{strips.map(({ key, label, from, to }) => (
				<g key={key}>
					<rect className="picture-strip" x={from} y={plot.top} width={to - from} height={plot.bottom - plot.top} />
					<text className="picture-text" x={(from + to) / 2} y={height - 8} textAnchor="middle">
						{label}
					</text>
				</g>
			))}
			{chances.map(({ y, label }) => (
				<g key={label}>
					<line className="picture-line" x1={plot.left} x2={plot.right} y1={y} y2={y} />
					<text className="picture-text" x={plot.left - 6} y={y + 4} textAnchor="end">
						{label}
					</text>
				</g>
			))}
			{weeks.map(({ x, label }) => (
				<g key={x}>
					<line className="picture-line" x1={x} x2={x} y1={plot.top} y2={plot.bottom} />
					{label && (
						<text className="picture-text" x={x + 2} y={height - 8}>
							{label}
						</text>
					)}
				</g>
			))}
			{today !== null && <line className="picture-today" x1={today} x2={today} y1={plot.top} y2={plot.bottom} />}
			{spots.map((spot) => (
				<DealMark
					key={spot.deal.id}
					spot={spot}
					selected={selected.has(spot.deal.id)}
					here={spot.deal.id === here}
					named={named.has(spot.deal.id)}
					right={plot.right}
				/>
			))}
			{box && <rect className="picture-brush" {...box} />}
		</svg>
	);
}
