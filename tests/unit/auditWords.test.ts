import { expect, test } from "vitest";
import { detailWords } from "@/features/setup/server/auditWords";

const nobody = () => null;

test("what was changed is said field by field, from what to what, and nothing of what stayed", () => {
	const before = { name: "Ida", role: "rep", team: "North", activeTo: null, id: "p1" };
	const after = { name: "Ida", role: "manager", team: "North", activeTo: "2026-12-31" };
	expect(detailWords({ before, after }, nobody)).toBe("role rep → manager; active to nothing → 2026-12-31");
	expect(detailWords({ before: { stalled: { days: 5, on: true } }, after: { stalled: { days: 8, on: true } } }, nobody)).toBe("stalled: days 5 → 8");
	expect(detailWords({ before: [1, 2], after: [1, 3] }, nobody)).toBe("without 2; with 3");
	expect(detailWords({ before: "rep", after: "ops", how: "by hand" }, nobody)).toBe("rep → ops; how by hand");
	expect(detailWords({ dueBefore: "2026-12-01", dueAfter: "2026-12-04", version: 7 }, nobody)).toBe("due 2026-12-01 → 2026-12-04");
	expect(detailWords({ before: after, after }, nobody)).toBe("as it was");
});

test("ids of people are said as names, lists are cut, and what is empty is said as nothing", () => {
	const nameOf = (id: string) => (id === "p1" ? "Ida Fenn" : null);
	expect(detailWords({ before: { ownerId: null }, after: { ownerId: "p1" } }, nameOf)).toBe("owner nothing → Ida Fenn");
	expect(detailWords({ flags: ["a", "b", "c", "d", "e", "f", "g"], write: false }, nameOf)).toBe("flags a, b, c, d, e and 2 more; write no");
	expect(detailWords({ after: { name: "Ida", role: "rep", team: null } }, nameOf)).toBe("name Ida, role rep");
	expect(detailWords({}, nameOf)).toBe("");
});

test("changes of a deal keep their reason", () => {
	expect(detailWords({ changed: [{ field: "Close date", before: "1 Oct", after: "2 Nov" }], reason: "board" }, nobody)).toBe(
		"Close date 1 Oct → 2 Nov: “board”",
	);
});

test("of a list it is said what is new, what is gone, and what of the rest was changed", () => {
	const stage = (name: string, usualDays: number) => ({ name, kind: undefined, usualDays });
	expect(detailWords({ before: [stage("Enquiry", 10), stage("Demo", 20)], after: [stage("Enquiry", 14), stage("Offer", 30)] }, nobody)).toBe(
		"without Demo; Enquiry: usual days 10 → 14; with Offer",
	);
	expect(detailWords({ before: { weekend: [0, 6] }, after: { weekend: [5, 6] } }, nobody)).toBe("weekend without 0; weekend with 5");
	expect(detailWords({ before: [{ id: "a" }, { id: "b" }], after: [{ id: "b" }, { id: "a" }] }, nobody)).toBe("in another order");
	const many = Object.fromEntries([...Array(20).keys()].map((i) => [`field${i}`, i]));
	expect(detailWords({ before: {}, after: many }, nobody)).toMatch(/and 8 more$/);
});
