import { type Box, box, INK, LINE, SECOND } from "./box";
import { type LinesPicture, WIDTH } from "./picture";

const HEIGHT = 230;
const LEFT = 64;
const RIGHT = 16;
const TOP = 18;
const BOTTOM = 46;
const PLOT = { width: WIDTH - LEFT - RIGHT, height: HEIGHT - TOP - BOTTOM };

/** The first line is the one that is meant; those it is held against are thinner, broken, and paler. */
const STROKES = [
	{ stroke: "#2b3a67", strokeWidth: 2.5 },
	{ stroke: "#5c6aa0", strokeWidth: 1.5, strokeDasharray: "5 3" },
	{ stroke: "#8f9bc4", strokeWidth: 1.5, strokeDasharray: "1.5 3" },
] as const;
const strokeOf = (i: number) => STROKES[Math.min(i, STROKES.length - 1)] ?? STROKES[0];

/** Lines as boxes, with how high they are. */
export function drawLines({ lines: all, places, from, to, mark, amount }: LinesPicture): { root: Box; height: number } {
	// A period before may have had more working days.
	const lines = all.map(({ label, values }) => ({ label, values: values.slice(0, places) }));
	const most = Math.max(1, mark?.value ?? 0, ...lines.flatMap(({ values }) => [...values])) * 1.05;
	const x = (k: number) => LEFT + (PLOT.width * k) / Math.max(1, places - 1);
	const y = (value: number) => TOP + PLOT.height * (1 - Math.max(0, value) / most);
	const shapes = [
		...[0, 0.5, 1].map((share) => level(y(most * share), LINE, 1)),
		...(mark ? [level(y(mark.value), INK, 1.5)] : []),
		...lines
			.map(({ values }, i) => ({ type: "path", props: { d: stepsOf(values.map((value, k) => [x(k), y(value)])), fill: "none", ...strokeOf(i) } }))
			.reverse(),
	];
	const words = (text: string, top: number, style: Readonly<Record<string, string | number>>) =>
		box({ position: "absolute", left: LEFT, width: PLOT.width, top, fontSize: 12, color: SECOND, whiteSpace: "nowrap", ...style }, text);
	const right = { justifyContent: "flex-end" };
	const root = box(
		{ position: "relative" },
		{
			type: "svg",
			props: { width: WIDTH, height: HEIGHT, viewBox: `0 0 ${WIDTH} ${HEIGHT}`, style: { position: "absolute", left: 0, top: 0 }, children: shapes },
		},
		...[0, 0.5, 1].map((share) => words(amount(most * share), y(most * share) - 9, { left: 0, width: LEFT - 8, ...right })),
		...(mark ? [words(mark.words, y(mark.value) + 2, { color: INK, ...right })] : []),
		words(from, HEIGHT - BOTTOM + 4, {}),
		words(to, HEIGHT - BOTTOM + 4, right),
		box(
			{ position: "absolute", left: LEFT, width: PLOT.width, top: HEIGHT - 22, fontSize: 12, color: SECOND },
			...lines.map(({ label }, i) => box({ alignItems: "center", marginRight: 16, whiteSpace: "nowrap" }, stroke(i), label)),
		),
	);
	return { root, height: HEIGHT };
}

const level = (y: number, colour: string, width: number): Box => ({
	type: "line",
	props: { x1: LEFT, x2: LEFT + PLOT.width, y1: y, y2: y, stroke: colour, strokeWidth: width },
});

/** A level holds until the next: nothing is won between two days. */
const stepsOf = (points: readonly (readonly [number, number])[]): string =>
	points.map(([x, y], i) => (i === 0 ? `M${x.toFixed(1)} ${y.toFixed(1)}` : `H${x.toFixed(1)}V${y.toFixed(1)}`)).join("");

const stroke = (i: number): Box => ({
	type: "svg",
	props: {
		width: 22,
		height: 10,
		viewBox: "0 0 22 10",
		style: { marginRight: 6 },
		children: [{ type: "line", props: { x1: 0, x2: 22, y1: 5, y2: 5, ...strokeOf(i) } }],
	},
});
