import { describe, expect, test } from "vitest";
import { day, makeCompany, type TestDeal } from "../../../tests/kit/company";
import { NO_DAY } from "../time/day";
import { contactOf } from "./contact";

const contact = (activities: TestDeal["activities"], iso: string) => {
	const company = makeCompany([{ versions: [{ at: "2026-01-05" }], activities: activities ?? [] }]);
	return contactOf(company.deals[0]?.activities ?? [], day(iso));
};

describe("contact", () => {
	test("they are waiting for us since the day they wrote, until we answer", () => {
		const written: TestDeal["activities"] = [
			["2026-03-02", "both"],
			["2026-03-06", "in"],
		];
		expect(contact(written, "2026-03-10").waiting).toEqual({ side: "they", since: day("2026-03-06") });
		expect(contact([...written, ["2026-03-09", "out"]], "2026-03-10").waiting).toEqual({ side: "we", since: day("2026-03-09") });
		expect(contact([...written, ["2026-03-09", "both"]], "2026-03-10").waiting).toBeNull();
	});
	test("internal notes and planned activities are no contact", () => {
		const seen = contact(
			[
				["2026-03-02", "out"],
				["2026-03-06", "none"],
				["2026-03-05", "both", "planned"],
			],
			"2026-03-10",
		);
		expect(seen).toMatchObject({ lastTouch: day("2026-03-02"), lastTwoWay: NO_DAY, planned: false });
	});
	test("what is planned from the seen day on counts as planned", () => {
		expect(contact([["2026-03-10", "both", "planned"]], "2026-03-10").planned).toBe(true);
		expect(contact([["2026-03-10", "both", "planned"]], "2026-03-11").planned).toBe(false);
	});
	test("what happened later isn’t seen", () => {
		expect(
			contact(
				[
					["2026-03-02", "in"],
					["2026-03-09", "out"],
				],
				"2026-03-08",
			).waiting?.side,
		).toBe("they");
		expect(contact([["2026-03-09", "out"]], "2026-03-08").lastTouch).toBe(NO_DAY);
	});
});
