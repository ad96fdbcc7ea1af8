import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { fileKind, fileName, fileSize } from "@/core/words/fileWords";
import { mediaTypeOf } from "@/features/attachments/server/mediaType";
import { zipFiles } from "../kit/zip";

const bytes = (text: string) => new TextEncoder().encode(text);

describe("a file’s name", () => {
	test.each([
		["../../etc/passwd", "passwd"],
		["C:\\Users\\rae\\Offer.pdf", "Offer.pdf"],
		["  Offer.pdf ", "Offer.pdf"],
		["Offer\u202efdp.exe", "Offerfdp.exe"],
		["a\u0000b\nc.txt", "abc.txt"],
		["..", "file"],
		["folder/", "file"],
		["", "file"],
		["Gru\u0308ße.txt", "Grüße.txt"],
	])("%j is kept as %j", (given, kept) => expect(fileName(given)).toBe(kept));
	test("is cut before its ending, and done again stays as it is", () => {
		expect(fileName(`${"x".repeat(300)}.pdf`)).toMatch(/^x{196}\.pdf$/);
		fc.assert(
			fc.property(fc.string({ unit: "grapheme" }), (given) => {
				const name = fileName(given);
				expect(name.length).toBeGreaterThan(0);
				expect([...name].some((sign) => sign < " " || sign === "/" || sign === "\\")).toBe(false);
				expect(fileName(name)).toBe(name);
			}),
		);
	});
});

test("sizes are said in three places at the most", () => {
	expect([0, 999, 1000, 14_499, 999_499, 999_500, 2_340_000, 9_949_999, 9_950_000, 20_971_520].map(fileSize)).toEqual([
		"0 B",
		"999 B",
		"1 kB",
		"14 kB",
		"999 kB",
		"1.0 MB",
		"2.3 MB",
		"9.9 MB",
		"10 MB",
		"21 MB",
	]);
});

describe("what a file is", () => {
	test.each([
		["%PDF-1.7 made up", "application/pdf", "PDF"],
		["<html><script>alert(1)</script></html>", "text/plain", "text"],
		['<svg xmlns="http://www.w3.org/2000/svg" onload="alert(1)"/>', "text/plain", "text"],
		['<?xml version="1.0"?><svg/>', "text/plain", "text"],
		["MZ\u0000\u0003", "application/x-msdownload", "program"],
		["Grüße aus der Backstube", "text/plain", "text"],
		["\u0000\u0001\u0002\u0003", "application/octet-stream", "file"],
	])("of %j is %s", async (content, type, kind) => {
		expect(await mediaTypeOf(bytes(content))).toBe(type);
		expect(fileKind(type)).toBe(kind);
	});
	test("text that is cut in the midst of a sign is text, and a zip that unpacks to much is looked at no further than its beginning", async () => {
		expect(await mediaTypeOf(bytes(`${"a".repeat(65_535)}ü`))).toBe("text/plain");
		const bomb = zipFiles(new Map([["[Content_Types].xml", new Uint8Array(40 * 2 ** 20)]]));
		expect(await mediaTypeOf(bomb)).toMatch(/^application\//);
	});
});
