import { describe, expect, test } from "vitest";
import { bridge } from "@/core/bridge/bridge";
import { headline } from "@/features/changes/server/headline";
import { day, makeCompany, type TestDeal } from "../kit/company";

const Q4 = { start: day("2026-10-01"), end: day("2026-12-31") };
const said = (deals: TestDeal[]) =>
	headline(bridge(makeCompany(deals), day("2026-11-09"), day("2026-11-24"), Q4, null), "EUR", "11 working days", (deal) => `Deal ${deal}`);
const open = (amount: number): TestDeal["versions"][number] => ({ at: "2026-09-01", amount, close: "2026-12-01" });
const pushed = (amount: number): TestDeal => ({ versions: [open(amount), { at: "2026-11-12", close: "2027-02-01" }] });

describe("the headline", () => {
	test("says by how much the pipeline fell or grew, and in how long", () => {
		expect(said([{ versions: [open(500_000)] }, pushed(270_000)]).finding).toBe("Open pipeline fell by €270k in 11 working days");
		expect(said([{ versions: [open(500_000), { at: "2026-11-12", amount: 1_900_000 }] }]).finding).toBe("Open pipeline grew by €1.40m in 11 working days");
	});
	test("says so when nothing changed", () => {
		expect(said([{ versions: [open(500_000)] }])).toEqual({
			finding: "Open pipeline is unchanged, at €500k, after 11 working days",
			causes: "Nothing changed between the two days.",
		});
	});
	test("names the largest way out and in", () => {
		const { causes } = said([pushed(270_000), { versions: [{ ...open(120_000), at: "2026-11-12" }] }, { versions: [{ ...open(30_000), at: "2026-11-12" }] }]);
		expect(causes).toBe("Largest outflow: pushed out, €270k in 1 deal (Deal 0). Largest inflow: new, €150k in 2 deals (Deal 1; Deal 2).");
	});
	test("names it when one or two of several deals make up most of a step", () => {
		expect(said([pushed(700), pushed(100), pushed(200)]).causes).toContain("One deal makes up 70% of the pushes: Deal 0.");
		expect(said([pushed(400), pushed(400), pushed(200)]).causes).toContain("Two deals make up 80% of the pushes: Deal 0; Deal 1.");
		expect(said([pushed(250), pushed(250), pushed(250), pushed(250)]).causes).not.toContain("make");
	});
	test("doesn’t invent a way in or out", () => {
		expect(said([pushed(100)]).causes).toContain("No inflow.");
		expect(said([{ versions: [{ ...open(1), at: "2026-11-12" }] }]).causes).toMatch(/^No outflow\. Largest inflow: new/);
	});
});
