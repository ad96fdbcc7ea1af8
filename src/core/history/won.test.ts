import { describe, expect, test } from "vitest";
import { day, makeCompany } from "../../../tests/kit/company";
import { formatDay } from "../time/day";
import { carryWon, wonBetween, wonSpans } from "./won";

const at = (stage: string, date: string) => ({ at: date, stage });
const company = (...deals: ReturnType<typeof at>[][]) => makeCompany(deals.map((versions) => ({ versions })));
const spans = (versions: ReturnType<typeof at>[]) =>
	[...wonSpans(company(versions)).values()]
		.flat()
		.map(({ closed, until }) => [formatDay(closed), until === Number.POSITIVE_INFINITY ? null : formatDay(until)]);

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
	test("lead there by the walk up to the first of them", () => {
		const [own] = [...wonSpans(company([at("Enquiry", "2026-10-01"), at("Terms", "2026-10-13"), at("Won", "2026-11-10"), at("Won", "2026-11-17")])).values()];
		expect(own?.[0]?.path.visits.map(({ from }) => formatDay(from))).toEqual(["2026-10-01", "2026-10-13"]);
		expect(formatDay(own?.[0]?.path.closedDay ?? 0)).toBe("2026-11-10");
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

test("spans that were found before are gone on with: those of deals that changed are found again, through several changes", () => {
	const first = company([at("Terms", "2026-10-01"), at("Won", "2026-11-10")], [at("Terms", "2026-10-01")], [at("Won", "2026-10-05")]);
	wonSpans(first);
	const second = company([at("Terms", "2026-10-01")], [at("Terms", "2026-10-01")], [at("Won", "2026-10-05")]);
	carryWon(first.history, second.history, new Set([0]));
	const third = company([at("Terms", "2026-10-01")], [at("Terms", "2026-10-01"), at("Won", "2026-11-12")], [at("Won", "2026-10-05")]);
	carryWon(second.history, third.history, new Set([1]));
	expect([...wonSpans(third).keys()].sort()).toEqual([1, 2]);
	expect([...wonSpans(second).keys()]).toEqual([2]);
	// What no win of changed is the same object, so that what was measured by it holds.
	const fourth = company([at("Survey", "2026-10-01")], [at("Terms", "2026-10-01"), at("Won", "2026-11-12")], [at("Won", "2026-10-05")]);
	carryWon(third.history, fourth.history, new Set([0]));
	expect(wonSpans(fourth)).toBe(wonSpans(third));
});
