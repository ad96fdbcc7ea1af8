import { expect, test } from "vitest";
import { day, makeCompany } from "../../../tests/kit/company";
import { normsOn } from "../norms";
import { compareDeal } from "./compare";

test("a deal between two days: what differs, and which flags lit and cleared", () => {
	const company = makeCompany([
		{
			versions: [
				{ at: "2026-11-02", amount: 100, close: "2026-11-06", owner: 0 },
				{ at: "2026-11-12", amount: 90, close: "2026-12-18", owner: 1, category: "commit" },
			],
			activities: [["2026-11-16", "in"]],
		},
	]);
	const change = compareDeal(company, 0, normsOn(company, day("2026-11-09")), normsOn(company, day("2026-11-24")));
	expect(change.fields).toEqual([
		{ field: "amount", before: 10_000, after: 9000 },
		{ field: "closeDate", before: "2026-11-06", after: "2026-12-18" },
		{ field: "ownerId", before: 0, after: 1 },
		{ field: "category", before: "pipeline", after: "commit" },
	]);
	expect(change.lit).toEqual(["reply-owed", "shaky-commit", "short-runway"]);
	expect(change.wentOut).toEqual(["overdue"]);
});

test("a deal that is new has nothing to differ from", () => {
	const company = makeCompany([{ versions: [{ at: "2026-11-12" }] }]);
	const change = compareDeal(company, 0, normsOn(company, day("2026-11-09")), normsOn(company, day("2026-11-24")));
	expect(change).toMatchObject({ fields: [], before: null });
	expect(change.after?.status).toBe("open");
});
