import { expect, test } from "vitest";
import { detailWords } from "@/features/setup/server/auditWords";

const nobody = () => null;

test("what was changed is said field by field, from what to what, and nothing of what stayed", () => {
	const before = { name: "Ida", role: "rep", team: "North", activeTo: null, id: "p1" };
	const after = { name: "Ida", role: "manager", team: "North", activeTo: "2026-12-31" };
	expect(detailWords({ before, after }, nobody)).toBe("role rep → manager; active to nothing → 2026-12-31");
	expect(detailWords({ before: { stalled: { days: 5, on: true } }, after: { stalled: { days: 8, on: true } } }, nobody)).toBe("stalled: days 5 → 8");
	expect(detailWords({ before: [1, 2], after: [1, 3] }, nobody)).toBe("1, 2 → 1, 3");
	expect(detailWords({ before: after, after }, nobody)).toBe("");
});

test("ids of people are said as names, lists are cut, and what is empty is said as nothing", () => {
	const nameOf = (id: string) => (id === "p1" ? "Ida Fenn" : null);
	expect(detailWords({ before: { ownerId: null }, after: { ownerId: "p1" } }, nameOf)).toBe("owner id nothing → Ida Fenn");
	expect(detailWords({ flags: ["a", "b", "c", "d", "e", "f", "g"], write: false }, nameOf)).toBe("flags a, b, c, d, e and 2 more; write no");
	expect(detailWords({ after: { name: "Ida", role: "rep", team: null } }, nameOf)).toBe("name Ida, role rep");
	expect(detailWords({}, nameOf)).toBe("");
});

test("changes of a deal keep their reason", () => {
	expect(detailWords({ changed: [{ field: "Close date", before: "1 Oct", after: "2 Nov" }], reason: "board" }, nobody)).toBe(
		"Close date 1 Oct → 2 Nov: “board”",
	);
});
