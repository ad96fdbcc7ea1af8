import { describe, expect, test } from "vitest";
import { day, makeCompany } from "../../../tests/kit/company";
import { formatDay } from "../time/day";
import { STILL, type StageDays, wonBetween, wonSpans } from "./won";

const at = (stage: string, date: string) => ({ at: date, stage });
const company = (...deals: ReturnType<typeof at>[][]) => makeCompany(deals.map((versions) => ({ versions })));
const spans = (versions: ReturnType<typeof at>[]) =>
	wonSpans(company(versions)).flatMap(({ closed, until }) =>
		[...closed].map((day, i) => [formatDay(day), until[i] === STILL ? null : formatDay(until[i] as number)]),
	);

describe("the days on which a deal stands won", () => {
	test("are one span from the first of them, however often it was written of while it stood won", () => {
		expect(spans([at("Terms", "2026-10-01"), at("Won", "2026-11-10"), at("Won", "2026-11-11"), at("Won", "2026-11-17")])).toEqual([["2026-11-10", null]]);
	});
	test("end with the day on which it is opened again, and a second win is a span of its own", () => {
		expect(
			spans([
				at("Terms", "2026-10-01"),
				at("Won", "2026-11-10"),
				at("Won", "2026-11-11"),
				at("Terms", "2026-11-12"),
				at("Won", "2026-11-20"),
				at("Won", "2026-11-23"),
			]),
		).toEqual([
			["2026-11-10", "2026-11-12"],
			["2026-11-20", null],
		]);
	});
	test("count by the end of each day: won and opened again on one day is no win", () => {
		expect(spans([at("Terms", "2026-10-01"), { at: "2026-11-10T08:00", stage: "Won" }, { at: "2026-11-10T09:00", stage: "Terms" }])).toEqual([]);
		expect(spans([at("Won", "2026-10-01")])).toEqual([["2026-10-01", null]]);
		expect(spans([at("Terms", "2026-10-01"), at("Lost", "2026-10-02")])).toEqual([]);
	});
	test("say what was needed up to the first of them: its age, each finished visit, and from each stage on; in working days", () => {
		const deal = [at("Enquiry", "2026-10-01"), at("Terms", "2026-10-13"), at("Won", "2026-11-10"), at("Won", "2026-11-17")];
		const [wins] = wonSpans(company(deal, [at("Terms", "2026-11-02"), at("Won", "2026-11-10")]));
		const pairs = ({ stage, days }: StageDays) => [...stage].map((one, i) => [one, days[i]]);
		// 1 October to 13 October: 8 working days; to 10 November: 20 more.
		expect([...(wins?.age ?? [])]).toEqual([28, 6]);
		expect(wins && pairs(wins.visits)).toEqual([
			[0, 8],
			[4, 20],
			[4, 6],
		]);
		expect(wins && pairs(wins.left)).toEqual([
			[0, 28],
			[4, 20],
			[4, 6],
		]);
		expect([wins?.visits.ends, wins?.left.ends]).toEqual([Int32Array.of(2, 3), Int32Array.of(2, 3)]);
	});
});

describe("wins between two days", () => {
	const both = company(
		[at("Terms", "2026-10-01"), at("Won", "2026-11-10"), at("Terms", "2026-11-18"), at("Won", "2026-11-20")],
		[at("Terms", "2026-10-01"), at("Won", "2026-11-12")],
	);
	const between = (after: string, seen: string) => wonBetween(both, day(after), day(seen)).map(({ deal, closed }) => `${deal} ${formatDay(closed)}`);
	test("are those after the one and up to the other that stand then", () => {
		expect(between("2026-11-09", "2026-11-12")).toEqual(["0 2026-11-10", "1 2026-11-12"]);
		expect(between("2026-11-10", "2026-11-12")).toEqual(["1 2026-11-12"]);
		expect(between("2026-11-09", "2026-11-11")).toEqual(["0 2026-11-10"]);
		expect(between("2026-11-09", "2026-11-17")).toEqual(["0 2026-11-10", "1 2026-11-12"]);
		expect(between("2026-11-09", "2026-11-18")).toEqual(["1 2026-11-12"]);
		expect(between("2026-11-09", "2026-11-20")).toEqual(["0 2026-11-20", "1 2026-11-12"]);
	});
});
