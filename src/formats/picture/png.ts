import { readFile } from "node:fs/promises";
import { join } from "node:path";
import satori from "satori";
import sharp from "sharp";
import { drawBars } from "./bars";
import { box, CARD, INK } from "./box";
import { drawLines } from "./lines";
import { type Picture, WIDTH } from "./picture";

const FONTS = "node_modules/@fontsource/source-sans-3/files";
/** Names are written in more than one alphabet: what one file hasn’t got is looked for in the next. */
const ALPHABETS = ["latin", "latin-ext", "cyrillic", "greek", "vietnamese"];
/** Drawn so many times as fine as it is shown, for screens that can. */
const FINER = 2;
const DOTS_PER_INCH = 72;

let fonts: Promise<{ name: string; data: Buffer; weight: 400; style: "normal" }[]> | undefined;
const readFonts = () =>
	Promise.all(
		ALPHABETS.map(async (alphabet) => ({
			name: alphabet === "latin" ? "Source Sans 3" : `Source Sans 3 ${alphabet}`,
			data: await readFile(join(process.cwd(), FONTS, `source-sans-3-${alphabet}-400-normal.woff`)),
			weight: 400 as const,
			style: "normal" as const,
		})),
	);

/**
 * Draws a picture as PNG, with its letters as outlines: it looks the same whatever fonts a machine has.
 *
 * @returns its bytes, and its size in pixels of a page
 */
export async function drawPng(picture: Picture): Promise<{ bytes: Uint8Array; width: number; height: number }> {
	fonts ??= readFonts();
	const { root, height } = picture.kind === "bars" ? drawBars(picture) : drawLines(picture);
	const page = box({ width: WIDTH, height, background: CARD, color: INK, fontFamily: "Source Sans 3" }, root);
	const svg = await satori(page as never, { width: WIDTH, height, fonts: await fonts });
	const bytes = await sharp(Buffer.from(svg), { density: DOTS_PER_INCH * FINER })
		.png({ palette: true })
		.toBuffer();
	return { bytes, width: WIDTH, height };
}
