import iconv from "iconv-lite";
import { describe, expect, test } from "vitest";
import { NotText, readText } from "./text";

const bytes = (text: string, encoding: string) => new Uint8Array(iconv.encode(text, encoding));
const German = "id;name\n1;Müller Öfen\n2;Bäckerei Groß\n3;Café am Fluß\n";

describe("text by its bytes", () => {
	test.each([
		["utf-8", "UTF-8"],
		["windows-1252", "Windows-1252"],
		["cp850", "CP850"],
		["macroman", "Mac Roman"],
	])("%s", (encoding, name) => {
		expect(readText(bytes(German, encoding))).toEqual({ text: German, encoding: name, open: [] });
	});
	test("of two bytes a letter, with a mark or without, whichever end comes first", () => {
		for (const encoding of ["utf-16le", "utf-16be"]) {
			const plain = bytes(German, encoding);
			expect(readText(plain)).toEqual({ text: German, encoding: "UTF-16", open: [] });
			const mark = encoding === "utf-16le" ? [0xff, 0xfe] : [0xfe, 0xff];
			// A mark decides for a text that would say nothing by itself.
			const short = new Uint8Array([...mark, ...bytes("ü", encoding)]);
			expect(readText(short)).toMatchObject({ text: "ü", encoding: "UTF-16" });
			expect(readText(new Uint8Array([...mark, ...plain]))).toMatchObject({ text: German, encoding: "UTF-16" });
		}
		expect(readText(new Uint8Array([0xff, 0x41])).encoding).not.toBe("UTF-16");
		expect(readText(new Uint8Array([0xfe, 0x41])).encoding).not.toBe("UTF-16");
		expect(() => readText(new Uint8Array([0xff, 0xfe, 0x00, 0xd8]))).toThrow(NotText);
	});
	test("without its mark, and nothing of it lost", () => {
		expect(readText(new Uint8Array([0xef, 0xbb, 0xbf, 0x61])).text.replace("\uFEFF", "")).toBe("a");
	});
	test("that is binary is refused", () => {
		for (const data of [
			[0x00, 0x01, 0x02],
			[0x50, 0x4b, 0x03, 0x04],
			[0x61, 0x1f],
		])
			expect(() => readText(new Uint8Array(data))).toThrow("the file holds binary data, not text");
		expect(readText(new Uint8Array([0x61, 0x09, 0x0a, 0x0d])).text).toBe("a\t\n\r");
	});
	test("that may be in several says so, each with the line that shows it; a name that is known, or a choice, decides", () => {
		// 0xE9 is é in one, Ú in another and È in the third: a capital after small letters is none of a word.
		const one = new Uint8Array([...bytes("x\n", "ascii"), 0xe9]);
		const open = readText(one);
		expect(open.open.length).toBeGreaterThan(1);
		for (const { encoding, sample } of open.open) {
			expect(sample).toBe(readText(one, { encoding }).text.split("\n")[1]);
			expect(readText(one, { encoding })).toMatchObject({ encoding, open: [] });
			expect(readText(one, { names: [sample] })).toMatchObject({ encoding, open: [] });
		}
	});
	test("a capital in the midst of small letters speaks against an encoding, signs within a word too", () => {
		expect(readText(bytes("Andrés\nRenée\n", "windows-1252")).encoding).toBe("Windows-1252");
		expect(readText(bytes("L’été – “bon” €5\n", "windows-1252")).text).toBe("L’été – “bon” €5\n");
		expect(readText(bytes("ÉTÉ ÂGE\nÊTRE\n", "macroman")).text).toBe("ÉTÉ ÂGE\nÊTRE\n");
	});
	test("quotes stand at their side of a word, dashes by themselves, a currency’s sign beside its figure", () => {
		// The same bytes are other signs in the others, which stand nowhere so.
		for (const line of ["sie sagte „ja“ dazu", "« 5 % » – bon", "er kommt – bald", "2026–27 — ja", "kostet 5 €", "kostet €5", "£ 5 und £7", "l’an ‘24’"])
			for (const encoding of ["windows-1252", "macroman"]) {
				// Old Mac Roman has no euro.
				if (encoding === "macroman" && line.includes("€")) continue;
				const found = readText(bytes(`x\n${line}\n`, encoding));
				expect([found.text, ...found.open.map(({ sample }) => sample)]).toContain(found.open.length ? line : `x\n${line}\n`);
			}
	});
	test("a few bytes are no text of two bytes a letter, whatever they are", () => {
		expect(() => readText(new Uint8Array([0x61, 0, 0x62, 0]))).toThrow(NotText);
		expect(readText(bytes("abcd", "utf-16le")).text).toBe("abcd");
		expect(() => readText(new Uint8Array([0x61, 0, 0x62, 0x63, 0x64, 0x65, 0x66, 0x67, 0x68, 0x69]))).toThrow(NotText);
	});
	test("what shows the difference is the first line in which the encodings differ, without what surrounds it", () => {
		const { open } = readText(new Uint8Array([...bytes("Müller\n  x", "windows-1252"), 0xe9, ...bytes("  \n", "ascii")]));
		for (const { sample } of open) expect(sample).toBe(sample.trim());
	});
});
