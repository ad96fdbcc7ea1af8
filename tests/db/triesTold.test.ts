import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Move, Whom } from "@/core/period/try";
import { changeTry, saveTry } from "@/features/period/server/tries";
import { readTryLater } from "@/features/period/server/tryLater";
import { more, small } from "../kit/bundle";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf } from "../kit/fault";

// What came of a try, told again by hand. It was made on Tuesday, 10 November 2026; the day is the 24th.
let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("tries_told");
	await refill(small(TOLD));
});
afterAll(() => database.drop());

const deal = (id: string, name: string) => `${id},a1,${name},Web,2026-10-05T09:00:00Z,,,`;
const version = (id: string, at: string, stage: string, amount: number, close: string) => `${id},${at}T09:00:00Z,${stage},${amount},EUR,${close},rep1,commit,,`;
const TOLD = {
	...more(
		"deals.csv",
		deal("w", "Won"),
		deal("l", "Lost"),
		deal("p", "Pushed"),
		deal("u", "Undated"),
		deal("g", "Taken off"),
		deal("s", "In another stage"),
		deal("a", "At another price"),
		deal("c", "On another day"),
		deal("o", "As it was"),
		deal("e", "Won before"),
	),
	...more(
		"deal_versions.csv",
		...["w", "l", "p", "u", "g", "s", "a", "c", "o"].map((id) => version(id, "2026-10-05", "Survey", 100, "2026-12-10")),
		version("e", "2026-10-05", "Survey", 100, "2026-11-03"),
		version("e", "2026-11-03", "Won", 500, "2026-11-03"),
		version("w", "2026-11-16", "Won", 110, "2026-11-16"),
		version("l", "2026-11-16", "Lost", 100, "2026-11-16"),
		version("p", "2026-11-16", "Survey", 100, "2027-01-15"),
		version("u", "2026-11-16", "Survey", 100, ""),
		"g,2026-11-16T09:00:00Z,,,,,,,,",
		version("s", "2026-11-16", "Terms", 100, "2026-12-10"),
		version("a", "2026-11-16", "Survey", 90, "2026-12-10"),
		version("c", "2026-11-16", "Survey", 100, "2026-12-17"),
	),
};

const of = (value: string): Whom => ({ field: "deal", value });
const all = (what: Move["what"], percent = 100): Move[] => ["w", "l", "p", "u", "g", "s", "a", "c", "o"].map((id) => ({ whom: of(id), what, percent }));
/** A try of 10 November, looked at on the 24th: what it said of each deal, what that is now, and whether they agree. */
async function cameOf(moves: Move[]) {
	const { id } = await saveTry(await as("boss", "2026-11-10"), { name: `try ${Math.random()}`, whose: "all", due: "2026-Q4", moves });
	const later = await readTryLater(await as("boss"), id);
	return { ...later, deals: later.deals.map(({ id, said, now, agrees }) => [id, said, now, agrees]).sort() };
}
const STATES = { a: "open in Survey", c: "open in Survey", g: "removed", l: "lost", o: "open in Survey", p: "pushed out of the period", s: "open in Terms" };
const NOW: Record<string, string> = { ...STATES, u: "pushed out of the period", w: "won", o: "open, as it was" };
const expected = (said: string, agrees: Record<string, boolean>) => Object.keys(NOW).map((id) => [id, said, NOW[id], agrees[id] ?? null]);

describe("what came of a try", () => {
	test("that said won agrees with what was won, and with nothing that is lost, pushed out or removed", async () => {
		const { deals } = await cameOf(all("win"));
		expect(deals).toEqual(expected("won", { w: true, l: false, p: false, u: false, g: false }).sort());
	});
	test("that dropped agrees with what is lost or removed", async () => {
		const { deals } = await cameOf(all("drop"));
		expect(deals).toEqual(expected("dropped", { w: false, l: true, p: false, u: false, g: true }).sort());
	});
	test("that pushed out agrees with what is due later or undated", async () => {
		const { deals } = await cameOf(all("push"));
		expect(deals).toEqual(expected("pushed out", { w: false, l: false, p: true, u: true, g: false }).sort());
	});
	test("that gave another price is neither right nor wrong, unless it said more", async () => {
		expect((await cameOf(all("price", 80))).deals).toEqual(expected("at another price", {}).sort());
		const { deals } = await cameOf([
			{ whom: of("w"), what: "price", percent: 80 },
			{ whom: of("w"), what: "win", percent: 50 },
		]);
		expect(deals.find(([id]) => id === "w")).toEqual(["w", "won, at another price", "won", true]);
	});
	test("names deals that it said nothing of where they changed, and no others", async () => {
		const { deals } = await cameOf([{ whom: of("w"), what: "win", percent: 50 }]);
		// d1 got its amount and day on the very morning of the try; d2 and d3 are as they were.
		expect(deals).toEqual([["w", "won", "won", true], ...["l", "p", "u", "g", "s", "a", "c"].map((id) => [id, "nothing", NOW[id], null])].sort());
	});
	test("counts what was won when it was made, what it said, and what is won now", async () => {
		expect(await cameOf(all("win", 50))).toMatchObject({
			wonThen: 500_00,
			wonSaid: 500_00 + 9 * 50_00,
			wonNow: 500_00 + 110_00,
			currency: "EUR",
			madeWords: "Tue 10 Nov",
			try: { madeOn: "2026-11-10", whose: "all", own: true },
		});
	});
	test("is said of its day: with other moves it is of the day that they were made on, with another name it isn’t", async () => {
		const { id } = await saveTry(await as("boss", "2026-11-10"), { name: "One", whose: "all", due: "2026-Q4", moves: all("win") });
		await changeTry(await as("boss"), { id, name: "Another" });
		expect((await readTryLater(await as("boss"), id)).try).toMatchObject({ name: "Another", madeOn: "2026-11-10" });
		await changeTry(await as("boss"), { id, moves: all("drop") });
		const { try: changed, deals } = await readTryLater(await as("boss"), id);
		expect(changed.madeOn).toBe("2026-11-24");
		// Nothing has become of anything since.
		expect(deals.map(({ said, agrees }) => [said, agrees])).toEqual(deals.map(() => ["dropped", null]));
		expect(deals.map((one) => one.id).sort()).toEqual(["a", "c", "o", "s"]);
	});
	test("can’t be read where there is no such try, nor made of a period without an end", async () => {
		expect(await faultOf(async () => readTryLater(await as("boss"), "nothing"))).toMatchObject({ status: 404 });
		const endless = await faultOf(async () => saveTry(await as("boss"), { name: "Endless", whose: "all", due: "any", moves: all("win") }));
		expect(endless).toMatchObject({ status: 422 });
	});
});
