import type { Picture, PictureWeek } from "@/workers/riverModel";
import { areaPath, ribbon, type Stretch, toBar } from "./paths";

export interface Size {
	readonly width: number;
	readonly height: number;
}

export interface Stream {
	readonly key: string;
	readonly path: string;
	readonly kind: "on" | "back" | "won" | "lost" | "out" | "in";
}

export interface ExitBar extends Stretch {
	readonly kind: "won" | "lost" | "out";
	readonly x: number;
	readonly width: number;
	readonly amount: number;
	/** where its amount is written; null where there is no room */
	readonly label: { readonly x: number; readonly y: number } | null;
}

export interface Drawing {
	readonly size: Size;
	/** x of the state before the first week, and of each week's end */
	readonly xs: readonly number[];
	/** pixels for one minor unit, the same for bands and bars */
	readonly scale: number;
	readonly bands: readonly { readonly stage: number; readonly path: string; readonly label: number }[];
	/** of each week */
	readonly streams: readonly (readonly Stream[])[];
	readonly bars: readonly (readonly ExitBar[])[];
	/** heights at which the strips' words stand */
	readonly strips: { readonly won: number; readonly lost: number; readonly out: number; readonly outWords: string };
	/** the stretch of each open stage at each boundary, by stage */
	readonly nodes: readonly ReadonlyMap<number, Stretch>[];
}

const LEFT = 92;
const RIGHT = 12;
const HEAD = 26;
const FOOT = 24;
const GAP = 9;
const STRIP_GAP = 20;
const LABEL = 13;

const KINDS = { won: "won", lost: "lost", out: "pushed-out" } as const;
const EXITS = Object.keys(KINDS) as ExitBar["kind"][];

/** What went out of a week; where nothing can be pushed out of the period, what was pushed later within it takes that strip. */
function exitOf(week: PictureWeek, kind: ExitBar["kind"], within: boolean): { readonly amount: number; readonly count: number } | undefined {
	if (kind === "out" && within) return week.later;
	return week.steps.find((step) => step.kind === KINDS[kind]);
}

/** Everything of the river's picture but the date and the thread, for a size in pixels. */
export function draw(picture: Picture, size: Size): Drawing {
	const { weeks, open, start } = picture;
	const most = (values: readonly number[]) => Math.max(0, ...values);
	const states = [start, ...weeks];
	const tallest = most(states.map((state) => state.open));
	const within = !weeks.some((week) => week.steps.some((one) => one.kind === "pushed-out"));
	const largest = (kind: ExitBar["kind"]) => most(weeks.map((week) => exitOf(week, kind, within)?.amount ?? 0));
	const exits = { won: largest("won"), lost: largest("lost"), out: largest("out") };
	const fixed = HEAD + FOOT + 3 * STRIP_GAP + 3 * LABEL + (open.length - 1) * GAP;
	const all = tallest + exits.won + exits.lost + exits.out;
	const scale = all > 0 ? Math.max(0, size.height - fixed) / all : 0;

	const step = (size.width - LEFT - RIGHT) / Math.max(1, weeks.length);
	const xs = states.map((_, i) => LEFT + i * step);
	const wonBase = HEAD + LABEL + exits.won * scale;
	const top = wonBase + STRIP_GAP;
	const middle = top + (tallest * scale + (open.length - 1) * GAP) / 2;
	const bottom = middle + (middle - top);
	const lostBase = bottom + STRIP_GAP;
	const outBase = lostBase + exits.lost * scale + LABEL + STRIP_GAP;
	const bases = { won: wonBase, lost: lostBase, out: outBase };

	const nodes = states.map((state) => nodesOf(state, open, middle, scale));
	const labels = spread(
		open.map((stage) => {
			const node = nodes[0]?.get(stage);
			return node ? (node.top + node.bottom) / 2 : middle;
		}),
	);
	const barWidth = Math.min(14, step * 0.4);
	const widest = Math.max(exits.won, exits.lost, exits.out, 1);
	const wide = (amount: number) => Math.max(1, (amount / widest) * barWidth);
	const bars = weeks.map((week, w) => barsOf(week, { x: (xs[w] as number) + step / 2, width: barWidth, within, scale, bases }));
	return {
		size,
		xs,
		scale,
		bands: open.map((stage, i) => ({
			stage,
			label: labels[i] as number,
			path: areaPath(
				xs,
				nodes.map((node) => node.get(stage) as Stretch),
			),
		})),
		streams: weeks.map((week, w) => streamsOf(week, w, xs, nodes, bases, wide, scale)),
		bars: labelled(bars),
		strips: { ...bases, outWords: within ? "Pushed later" : "Pushed out" },
		nodes,
	};
}

/** Where each open stage lies at one week’s end, the first at the bottom. */
function nodesOf(state: Picture["start"], open: readonly number[], middle: number, scale: number): Map<number, Stretch> {
	let at = middle + (state.open * scale + (open.length - 1) * GAP) / 2;
	return new Map(
		open.map((stage): [number, Stretch] => {
			const bottom = at;
			at -= (state.bands[stage] ?? 0) * scale;
			const node = { top: at, bottom };
			at -= GAP;
			return [stage, node];
		}),
	);
}

interface BarPlace extends Pick<ExitBar, "x" | "width"> {
	readonly within: boolean;
	readonly scale: number;
	readonly bases: Readonly<Record<ExitBar["kind"], number>>;
}

/** The bars of what left in a week. */
function barsOf(week: PictureWeek, { x, width, within, scale, bases }: BarPlace): ExitBar[] {
	return EXITS.flatMap((kind): ExitBar[] => {
		const exit = exitOf(week, kind, within);
		if (!exit?.count) return [];
		const length = Math.max(1.5, exit.amount * scale);
		const [top, bottom] = kind === "won" ? [bases.won - length, bases.won] : [bases[kind], bases[kind] + length];
		return [{ kind, x, width, amount: exit.amount, top, bottom, label: null }];
	});
}

/** Labels at least a line apart, from the bottom upwards. */
function spread(wanted: readonly number[]): number[] {
	const placed: number[] = [];
	for (const y of wanted) placed.push(Math.min(y, (placed.at(-1) ?? Number.POSITIVE_INFINITY) - 15));
	return placed;
}

/** Amounts are written at the largest bars first, as long as they don't touch one that is written already. */
function labelled(weeks: readonly ExitBar[][]): ExitBar[][] {
	const taken: Record<string, number[]> = {};
	const chosen = new Set<ExitBar>();
	const all = weeks.flat().filter((bar) => bar.amount > 0);
	for (const bar of all.sort((a, b) => b.amount - a.amount)) {
		taken[bar.kind] ??= [];
		const row = taken[bar.kind] as number[];
		if (row.some((x) => Math.abs(x - bar.x) < 44) || row.length >= 8) continue;
		row.push(bar.x);
		chosen.add(bar);
	}
	return weeks.map((bars) =>
		bars.map((bar) => (chosen.has(bar) ? { ...bar, label: { x: bar.x, y: bar.kind === "won" ? bar.top - 4 : bar.bottom + 11 } } : bar)),
	);
}

/** Where a move stands among those that leave or reach a band: what goes up lies on top. */
const rank = (place: number | string): number => (typeof place === "number" ? place : place === "won" ? 1000 : -1000);

function streamsOf(
	week: PictureWeek,
	w: number,
	xs: readonly number[],
	nodes: Drawing["nodes"],
	bases: Record<ExitBar["kind"], number>,
	wide: (amount: number) => number,
	scale: number,
): Stream[] {
	const [x0, x1] = [xs[w] as number, xs[w + 1] as number];
	const starts = stacked(week, "from", nodes[w], scale);
	const ends = stacked(week, "to", nodes[w + 1], scale);
	const feet = feetOf(week, starts, (x0 + x1) / 2, wide);
	return week.moves.flatMap((move): Stream[] => {
		const key = `${move.from}>${move.to}`;
		const [from, to] = [starts.get(move), ends.get(move)];
		if (from && to) return move.from === move.to ? [] : [{ key, kind: rank(move.to) > rank(move.from) ? "on" : "back", path: ribbon(x0, from, x1, to) }];
		const foot = feet.get(move);
		if (from && foot) {
			const kind = move.to === "pushed-out" ? "out" : (move.to as ExitBar["kind"]);
			return [{ key, kind, path: toBar(x0, from, foot.left, foot.right, bases[kind]) }];
		}
		if (from) return [{ key, kind: "out", path: ribbon(x0, from, x0 + (x1 - x0) * 0.7, point(from)) }];
		if (to) return [{ key, kind: "in", path: ribbon(x0 + (x1 - x0) * 0.3, point(to), x1, to) }];
		return [];
	});
}

type Move = PictureWeek["moves"][number];

/**
 * Where a week's ways out end, side by side under the middle of their bar, each as wide as its amount is among all
 * exits of the picture; what leaves nearest to the bar turns first.
 */
function feetOf(week: PictureWeek, starts: ReadonlyMap<Move, Stretch>, middle: number, wide: (amount: number) => number) {
	const feet = new Map<Move, { readonly left: number; readonly right: number }>();
	for (const to of ["won", "lost", "pushed-out"] as const) {
		const near = (move: Move) => (starts.get(move)?.top ?? 0) * (to === "won" ? 1 : -1);
		const moves = week.moves.filter((move) => move.to === to && starts.has(move)).sort((a, b) => near(a) - near(b));
		const widths = moves.map((move) => wide(move.before));
		let left = middle - widths.reduce((sum, width) => sum + width, 0) / 2;
		moves.forEach((move, i) => {
			const right = left + (widths[i] as number);
			feet.set(move, { left, right });
			left = right;
		});
	}
	return feet;
}

const point = ({ top, bottom }: Stretch): Stretch => ({ top: (top + bottom) / 2, bottom: (top + bottom) / 2 });

/** The stretch of each move at one end of a week, within the band it leaves or reaches. */
function stacked(week: PictureWeek, end: "from" | "to", nodes: ReadonlyMap<number, Stretch> | undefined, scale: number) {
	const other = end === "from" ? "to" : "from";
	const found = new Map<Move, Stretch>();
	for (const [stage, node] of nodes ?? []) {
		let at = node.top;
		for (const move of week.moves.filter((one) => one[end] === stage).sort((a, b) => rank(b[other]) - rank(a[other]))) {
			const height = (end === "from" ? move.before : move.after) * scale;
			found.set(move, { top: at, bottom: at + height });
			at += height;
		}
	}
	return found;
}

/** The boundary, stage and height in minor units that lie under a point of the picture; null outside the bands. */
export function placeAt(drawing: Drawing, x: number, y: number): { boundary: number; stage: number; height: number } | null {
	const step = (drawing.xs[1] ?? 0) - (drawing.xs[0] ?? 0) || 1;
	const boundary = Math.round((x - (drawing.xs[0] ?? 0)) / step);
	for (const [stage, node] of drawing.nodes[boundary] ?? []) {
		if (y >= node.top && y <= node.bottom) return { boundary, stage, height: (node.bottom - y) / drawing.scale };
	}
	return null;
}
