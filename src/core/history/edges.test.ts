import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { at, day, makeCompany, type TestDeal } from "../../../tests/kit/company";
import { histories } from "../../../tests/kit/histories";
import { NO_DAY } from "../time/day";
import { asOf, asOfInstant, blockOf, dayEnds, dayOrNull, firstRow, sizeOf } from "./columns";
import { closedDayOf, pathOf, stageTotal } from "./path";
import { evenChances, rankStages } from "./stage";

describe("stages that nobody has judged", () => {
	test("rise evenly by twentieths while they are open; won is certain, lost is none", () => {
		const kinds = (...list: ("open" | "won" | "lost")[]) => evenChances(list.map((kind) => ({ kind }))).map(({ probability }) => probability);
		expect(kinds("open")).toEqual([0.5]);
		expect(kinds("open", "open", "open", "won", "lost")).toEqual([0.25, 0.5, 0.75, 1, 0]);
		expect(kinds("open", "lost", "open", "open", "open", "open", "won")).toEqual([0.15, 0, 0.35, 0.5, 0.65, 0.85, 1]);
		expect(evenChances([{ kind: "won" as const, name: "Signed" }])).toEqual([{ kind: "won", name: "Signed", probability: 1 }]);
	});
	test("have their ranks counted over the open ones", () => {
		const probability = { units: 1, scale: 1 };
		const stage = (kind: "open" | "won" | "lost") => ({ name: kind, kind, probability, usualDays: 1 });
		expect(rankStages((["lost", "open", "won", "open"] as const).map(stage)).map(({ rank }) => rank)).toEqual([0, 1, 0, 2]);
	});
});

const DAYS = Array.from({ length: 32 }, (_, i) => day("2026-10-30") + i);

describe("the versions of a deal", () => {
	test("in force at an instant and at a day’s end are the last ones by then", () => {
		fc.assert(
			fc.property(histories, (deals) => {
				const { history } = makeCompany(deals);
				deals.forEach(({ versions }, deal) => {
					const first = firstRow(blockOf(history, deal), deal);
					const instants = versions.map((version) => at(version.at));
					for (const instant of [...instants, ...instants.map((one) => one - 1), 0]) {
						const count = instants.filter((one) => one <= instant).length;
						expect(asOfInstant(history, deal, instant)).toBe(count ? first + count - 1 : -1);
					}
					for (const on of DAYS) {
						const count = versions.filter((version) => day(version.at.slice(0, 10)) <= on).length;
						expect(asOf(history, deal, on)).toBe(count ? first + count - 1 : -1);
					}
				});
			}),
		);
	});
	test("are read by day-ends: of each day with versions the last", () => {
		fc.assert(
			fc.property(histories, (deals) => {
				const { history } = makeCompany(deals);
				deals.forEach(({ versions }, deal) => {
					const first = firstRow(blockOf(history, deal), deal);
					for (const on of DAYS) {
						const until = versions.map((version) => version.at.slice(0, 10)).filter((iso) => day(iso) <= on);
						const lasts = until.flatMap((iso, i) => (until[i + 1] === iso ? [] : [first + i]));
						expect(dayEnds(history, deal, on)).toEqual(lasts);
					}
				});
			}),
		);
	});
	test("say since when a deal is closed as it is, as its path does", () => {
		fc.assert(
			fc.property(histories, (deals) => {
				const { history, rules } = makeCompany(deals);
				deals.forEach((_, deal) => {
					for (const on of DAYS) {
						const ends = dayEnds(history, deal, on);
						const last = ends.at(-1);
						if (last === undefined) continue;
						const path = pathOf(blockOf(history, deal), ends, rules.stages, rules.calendar, on);
						expect(closedDayOf(blockOf(history, deal), rules.stages, firstRow(blockOf(history, deal), deal), last)).toBe(path.closedDay);
						const total = rules.stages.reduce((sum, _stage, stage) => sum + stageTotal(path, stage), 0);
						expect(total).toBe(path.visits.reduce((sum, visit) => sum + visit.length, 0));
					}
				});
			}),
		);
	});
	test("are closed from the first day of the run of days that ended so", () => {
		const deal: TestDeal = {
			versions: [
				{ at: "2026-11-02", stage: "Lost" },
				{ at: "2026-11-03", stage: "Trial" },
				{ at: "2026-11-04 08:00", stage: "Terms" },
				{ at: "2026-11-04 09:00", stage: "Won" },
				{ at: "2026-11-05", stage: "Won", amount: 9 },
				{ at: "2026-11-09", stage: "Lost" },
			],
		};
		const { history, rules } = makeCompany([deal]);
		const closed = [0, 1, 3, 4, 5].map((row) => closedDayOf(blockOf(history, 0), rules.stages, 0, row));
		expect(closed).toEqual([day("2026-11-02"), NO_DAY, day("2026-11-04"), day("2026-11-04"), day("2026-11-09")]);
	});
});

test("a history’s size is that of its columns and texts, and grows with every version", () => {
	const size = (...versions: TestDeal["versions"]) => sizeOf(makeCompany([{ versions }]).history);
	const [one, two] = [size({ at: "2026-11-02" }), size({ at: "2026-11-02" }, { at: "2026-11-03" })];
	expect(two - one).toBeGreaterThan(40);
	expect(two - one).toBeLessThan(120);
	const { history } = makeCompany([{ versions: [{ at: "2026-11-02" }] }]);
	const longer = { ...history, blocks: history.blocks.map((block) => ({ ...block, texts: [...block.texts, "four"] })) };
	expect(sizeOf(longer) - sizeOf(history)).toBe(2 * 4 + 16);
});

test("a day of none is null", () => {
	expect([dayOrNull(NO_DAY), dayOrNull(0), dayOrNull(9)]).toEqual([null, 0, 9]);
});
