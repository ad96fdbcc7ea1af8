import sharp from "sharp";
import { describe, expect, test } from "vitest";
import { TILE_KINDS } from "@/features/boards/panels";
import { TELLERS } from "@/features/boards/server/told";
import { mailBody } from "@/features/sendings/server/mailBody";
import { sheetNames } from "@/features/sendings/server/sheetNames";
import type { BarsPicture, LinesPicture } from "@/formats/picture/picture";
import { drawPng } from "@/formats/picture/png";

const bars = (rows: BarsPicture["rows"]): BarsPicture => ({ kind: "bars", alt: "Rae: €2m", rows, legend: [{ tone: "won", words: "won" }] });
const row = (label: string, to: number, mark: number | null = null): BarsPicture["rows"][number] => ({
	label,
	words: String(to),
	parts: [{ from: 0, to, tone: "won" }],
	mark,
});
const lines = (values: readonly number[]): LinesPicture => ({
	kind: "lines",
	alt: "Won by day",
	lines: [{ label: "now", values }],
	places: 10,
	from: "1 Oct 2026",
	to: "31 Dec 2026",
	mark: { value: 8, words: "target 8" },
	amount: String,
});

/** How many dots of a colour a picture has. */
async function dotsOf(bytes: Uint8Array, [red, green, blue]: readonly [number, number, number]): Promise<number> {
	const { data, info } = await sharp(bytes).removeAlpha().raw().toBuffer({ resolveWithObject: true });
	let count = 0;
	for (let i = 0; i < data.length; i += info.channels)
		if (Math.abs((data[i] ?? 0) - red) < 6 && Math.abs((data[i + 1] ?? 0) - green) < 6 && Math.abs((data[i + 2] ?? 0) - blue) < 6) count++;
	return count;
}
const WON = [0x1f, 0x6f, 0x6b] as const;
const DUSK = [0x2b, 0x3a, 0x67] as const;

describe("a picture in a mail", () => {
	test("is a PNG twice as fine as it is shown, as high as its rows", async () => {
		const one = await drawPng(bars([row("Rae", 2)]));
		const three = await drawPng(bars([row("Rae", 2), row("Øystein Ćirić", 1), row("Ана", 1)]));
		const { width, height, format } = await sharp(one.bytes).metadata();
		expect({ width, height, format }).toEqual({ width: 2 * one.width, height: 2 * one.height, format: "png" });
		expect(three.height - one.height).toBe(2 * 26);
	});
	test("has bars as long as what they stand for", async () => {
		const drawn = async (to: number) => dotsOf((await drawPng(bars([row("", to), row("", 10)]))).bytes, WON);
		const [none, half, whole] = await Promise.all([drawn(0), drawn(5), drawn(10)]);
		expect((half - none) / (whole - none)).toBeCloseTo(0.5, 1);
	});
	test("has a line that ends where its values end", async () => {
		const [short, long] = await Promise.all([drawPng(lines([1, 2, 3])), drawPng(lines([1, 2, 3, 3, 3, 3, 3, 3]))]);
		expect(await dotsOf(long.bytes, DUSK)).toBeGreaterThan(1.5 * (await dotsOf(short.bytes, DUSK)));
	});
	test("is drawn of nothing too", async () => {
		for (const picture of [bars([]), lines([])]) expect((await drawPng(picture)).bytes.length).toBeGreaterThan(100);
	});
});

test("each kind of tile is told of in mails, and nothing else is", () => {
	expect(TELLERS.map(({ key }) => key).sort()).toEqual(TILE_KINDS.map(({ key }) => key).sort());
});

test("a mail’s parts are told in text as in HTML, escaped; what has an address leads there as of the day", async () => {
	const { body, pictures } = await mailBody(
		[
			{ title: "", says: [], path: null },
			{ title: "<Pace>", says: ["Behind & late."], picture: lines([1]), path: "/period" },
		],
		(path) => `${path}?seen=2026-11-24`,
	);
	expect(body.text).toMatch(/^<Pace>\nBehind & late\.\nWon by day\nhttp\S+\/period\?seen=2026-11-24$/);
	expect(body.html).toContain("&lt;Pace&gt;");
	expect(body.html).toContain("Behind &amp; late.");
	expect(pictures).toHaveLength(1);
});

test("names of sheets are short, allowed, and each there once", () => {
	const names = sheetNames(["By rep", "by rep", "", "What: a [list]/of*all?", "x".repeat(40), "x".repeat(40)]);
	expect(names).toEqual(["By rep", "by rep 2", "Table 3", "What a list of all", "x".repeat(31), `${"x".repeat(29)} 2`]);
});
