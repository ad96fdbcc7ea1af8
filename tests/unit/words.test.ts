import { describe, expect, test } from "vitest";
import { sources, type Text, textsOf } from "../kit/words";
import { FORBIDDEN, SECOND_VERBS } from "./words.forbidden";

const TEXTS = sources().flatMap((path) => textsOf(path));
const told = ({ file, line, text }: Text, instead: string) => `${file}:${line} “${text}”: ${instead}`;

describe("what people read", () => {
	test("is found: screens, messages, mails and files", () => {
		expect(TEXTS.length).toBeGreaterThan(4000);
		for (const place of ["src/features/deals/ui", "src/features/reaching/server/letters.ts", "src/core/flags", "src/formats/bundle", "src/app"])
			expect(TEXTS.filter(({ file }) => file.startsWith(place)).length, place).toBeGreaterThan(0);
	});

	test("says nothing in the words of the list", () => {
		const found = TEXTS.flatMap((one) => FORBIDDEN.flatMap(([pattern, instead]) => (pattern.test(one.text) ? [told(one, instead)] : [])));
		expect(found).toEqual([]);
	});

	test("has one verb for one action on what can be pressed", () => {
		const found = TEXTS.filter(({ acts }) => acts).flatMap((one) =>
			SECOND_VERBS.flatMap(([pattern, verb]) => (pattern.test(one.text) ? [told(one, verb)] : [])),
		);
		expect(found).toEqual([]);
	});
});

describe("texts of a source", () => {
	const of = (code: string) => textsOf("/x/src/a.tsx", code).map(({ text, acts }) => [text, acts]);

	test("are those that somebody reads, values left open", () => {
		// biome-ignore lint/suspicious/noTemplateCurlyInString: a source is read here
		expect(of('const a = `${n} deals are open`; const b = "Won"; const key = "won";')).toEqual([
			["{} deals are open", false],
			["Won", false],
		]);
		expect(of('import x from "Some where"; type A = "In commit"; const q = sql`select a b`; const e = <p className="small text">Open deals</p>;')).toEqual([
			["Open deals", false],
		]);
	});

	test("act on a button and a link, by their label too", () => {
		expect(of('const e = <Button aria-label="Delete round">Delete</Button>;')).toEqual([
			["Delete round", true],
			["Delete", true],
		]);
	});
});
