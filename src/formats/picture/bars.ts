import { type Box, box, INK, LINE, SECOND } from "./box";
import { type BarRow, type BarsPicture, type Tone, WIDTH } from "./picture";

const TONES: Readonly<Record<Tone, string>> = {
	end: "#2b3a67",
	in: "#8f9bc4",
	out: "#7b3b5e",
	won: "#1f6f6b",
	commit: "#2b3a67",
	bestCase: "#8f9bc4",
	pipeline: "#b9c2de",
	range: "#b9c2de",
};

const ROW = 26;
const BAR = 14;
const LABEL = 148;
const WORDS = 116;
const TRACK = WIDTH - LABEL - WORDS - 24;
const LEGEND = 28;
/** more rows can’t be read in a mail; the table beneath has them all */
const MOST = 24;

/** Bars as boxes, with how high they are. */
export function drawBars({ rows, legend }: BarsPicture): { root: Box; height: number } {
	const shown = rows.slice(0, MOST);
	const most = Math.max(1, ...shown.flatMap(({ parts, mark }) => [mark ?? 0, ...parts.map(({ to }) => to)])) * 1.02;
	const height = shown.length * ROW + (legend.length ? LEGEND : 0) + 12;
	const root = box(
		{ flexDirection: "column", padding: "6px 12px" },
		...shown.map((row) => drawRow(row, most)),
		...(legend.length ? [box({ height: LEGEND, alignItems: "center", fontSize: 12, color: SECOND }, ...legend.map(drawKey))] : []),
	);
	return { root, height };
}

function drawRow({ label, words, parts, mark }: BarRow, most: number): Box {
	const at = (value: number) => Math.round((TRACK * Math.max(0, value)) / most);
	const place = { position: "absolute" as const };
	return box(
		{ height: ROW, alignItems: "center", fontSize: 13 },
		box({ width: LABEL - 8, marginRight: 8, overflow: "hidden", whiteSpace: "nowrap", textOverflow: "ellipsis" }, label || " "),
		box(
			{ width: TRACK, height: ROW, position: "relative" },
			box({ ...place, left: -1, top: 0, width: 1, height: ROW, background: LINE }),
			...parts.map(({ from, to, tone }) =>
				box({ ...place, left: at(from), top: (ROW - BAR) / 2, width: Math.max(1, at(to) - at(from)), height: BAR, background: TONES[tone] }),
			),
			...(mark === null ? [] : [box({ ...place, left: at(mark) - 1, top: 3, width: 2, height: ROW - 6, background: INK })]),
		),
		box({ width: WORDS, justifyContent: "flex-end", whiteSpace: "nowrap" }, words || " "),
	);
}

const drawKey = ({ tone, words }: BarsPicture["legend"][number]): Box =>
	box(
		{ alignItems: "center", marginRight: 16 },
		box({ width: tone === "mark" ? 2 : 10, height: tone === "mark" ? 14 : 10, background: tone === "mark" ? INK : TONES[tone], marginRight: 6 }),
		words,
	);
