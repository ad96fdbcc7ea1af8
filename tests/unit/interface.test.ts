import { describe, expect, test } from "vitest";
import { change, grouped, longDate, money, nearDate, shortDate, shortMoney, spaced } from "@/ui/format";
import { levelWord } from "@/ui/parts/Level";
import { ROWS_AT_ONCE, rowsAsked } from "@/ui/parts/rows";

describe("figures in words", () => {
	test("amounts carry their currency, and a minus that is one", () => {
		expect(money(41_200_000, "EUR")).toBe("€412\u00a0000");
		expect(money(-41_200_000, "EUR")).toBe("−€412\u00a0000");
		expect(money(1_250, "JPY")).toBe("¥1\u00a0250");
		expect(money(100_000, "SEK")).toBe("SEK\u00a01\u00a0000");
		expect(shortMoney(-95_000_000, "EUR")).toBe("−€950k");
	});
	test("changes carry their sign", () => {
		expect([change(1_250_000, "EUR"), change(-3_800_000, "EUR"), change(0, "EUR")]).toEqual(["+12\u00a0500", "−38\u00a0000", "0"]);
	});
	test("days are short near the seen day and carry the year elsewhere", () => {
		expect([shortDate("2026-11-18"), longDate("2026-11-18"), shortDate(null)]).toEqual(["18 Nov", "18 Nov 2026", "–"]);
		expect([nearDate("2026-01-15", "2026-11-24"), nearDate("2027-01-15", "2026-11-24"), nearDate(null, "2026-11-24")]).toEqual(["15 Jan", "15 Jan 2027", "–"]);
	});
	test("counts of thousands are grouped", () => {
		expect([grouped(0), grouped(999), grouped(9_725), grouped(1_000_225)]).toEqual(["0", "999", "9\u00a0725", "1\u00a0000\u00a0225"]);
	});
	test("words of the data read as words", () => {
		expect([spaced("best_case"), spaced(null), levelWord("against"), levelWord("heard")]).toEqual(["best case", "", "against us", "heard"]);
	});
});

test("an address asks for a sensible number of rows, or gets the usual one", () => {
	expect([undefined, "", "ten", "-4", "1e3", "9999999"].map(rowsAsked)).toEqual(Array(6).fill(ROWS_AT_ONCE));
	expect(["0", "400", "999999"].map(rowsAsked)).toEqual([1, 400, 5000]);
});
