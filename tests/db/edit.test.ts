import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { plain } from "@/../tests/kit/plain";
import { connection } from "@/data/db";
import { loadOrganisation } from "@/data/organisation/load";
import { editDeals, previewEdit } from "@/features/deals/server/editDeals";
import type { Change } from "@/features/deals/server/planEdit";
import { changeSchema } from "@/features/deals/server/planEdit";
import { readDeals } from "@/features/deals/server/readDeals";
import { undoEdit } from "@/features/deals/server/undoEdit";
import { readDeal } from "@/features/sheet/server/readDeal";
import { readSheet } from "@/features/sheet/server/readSheet";
import { resolveViewpoint } from "@/platform/viewpoint";
import { as, freshDatabase, importAs, refill } from "../kit/database";
import { allDeals } from "../kit/deals";
import { faultOf, wordsOf } from "../kit/fault";
import { inspected } from "../kit/inspection";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("edit");
});
beforeEach(() => refill(inspected()));
afterAll(() => database.drop());

const deal = async (id = "d1", person = "ops") => readDeal(await as(person), id, undefined);
const edit = async (change: Change, id = "d1", person = "north", versionId?: number) =>
	editDeals(await as(person), { targets: [{ id, versionId: versionId ?? (await deal(id)).versionId }], change });

describe("changing a deal", () => {
	test("ends the version that stood and begins the next, by whom and why", async () => {
		const before = await deal();
		const [done] = await edit({ closeDate: "2026-12-30", reason: "Their board moved" });
		expect(done?.differences).toEqual([{ field: "Close date", before: "18 Dec 2026", after: "30 Dec 2026" }]);
		const after = await deal();
		expect(after).toMatchObject({ closeDate: "2026-12-30", stage: before.stage, amount: before.amount, trail: { pushes: before.trail.pushes + 1 } });
		expect(after.versions.at(-1)).toMatchObject({ byId: "north", reason: "Their board moved" });
		const current = await connection().pool.query("select count(*)::int as n from deal_versions where deal_id = 'd1' and valid_to is null");
		expect(current.rows[0].n).toBe(1);
	});
	test("a push needs its why, in the words of a question, and writes nothing without", async () => {
		const fault = await faultOf(() => edit({ closeDate: "2026-12-30" }));
		expect(fault).toMatchObject({ status: 422, more: { needs: { reason: "Why does it close later?" } } });
		expect((await deal()).closeDate).toBe("2026-12-18");
		await edit({ closeDate: "2026-12-01" });
		expect((await deal()).trail.pulls).toBe(1);
	});
	test("a loss needs a reason from the list and says to whom", async () => {
		expect((await faultOf(() => edit({ stage: "Lost" }))).more.needs).toEqual({ outcomeReason: "Why was it lost?", competitor: "To whom was it lost?" });
		expect((await faultOf(() => edit({ stage: "Lost", outcomeReason: "Bad luck", competitor: null }))).detail).toContain("Price, No decision");
		await edit({ stage: "Lost", outcomeReason: "Price", competitor: "Vostrel" });
		expect(await deal()).toMatchObject({
			status: "lost",
			outcomeReason: "Price",
			competitor: "Vostrel",
			closedOn: "2026-11-24",
			closeDate: "2026-11-24",
			nextStep: null,
			flags: [],
		});
	});
	test("a win needs its day, and is dated to it", async () => {
		expect((await faultOf(() => edit({ stage: "Won" }))).more.needs).toEqual({ closedOn: "On which day was it won?" });
		expect((await faultOf(() => edit({ stage: "Won", closedOn: "2026-11-25" }))).detail).toContain("today is 2026-11-24");
		await edit({ stage: "Won", closedOn: "2026-11-20" });
		expect(await deal()).toMatchObject({ status: "won", closedOn: "2026-11-20", closeDate: "2026-11-20" });
		expect(await readDeal(await as("ops"), "d1", "2026-11-19")).toMatchObject({ status: "open" });
	});
	test("the second of two is told who changed what, and nothing of theirs is written", async () => {
		const { versionId } = await deal();
		await edit({ amount: 99_000 }, "d1", "rep1", versionId);
		const fault = await faultOf(() => edit({ amount: 88_000 }, "d1", "north", versionId));
		expect(fault.status).toBe(412);
		expect(fault.detail).toContain("Rae Penn changed Deck ovens since: amount €1\u00a0200 → €990");
		expect((await deal()).amount).toBe(99_000);
		await edit({ amount: 88_000 }, "d1", "north", fault.more.versionId as number);
		expect((await deal()).amount).toBe(88_000);
	});
	test("two at the very same moment: one is written, the other is told", async () => {
		const { versionId } = await deal();
		const both = await Promise.allSettled([edit({ amount: 1 }, "d1", "rep1", versionId), edit({ amount: 2 }, "d1", "north", versionId)]);
		expect(both.map((result) => result.status).sort()).toEqual(["fulfilled", "rejected"]);
	});
	test("what is the same already writes nothing", async () => {
		const { versionId } = await deal();
		const [done] = await edit({ category: "best_case" });
		expect(done).toMatchObject({ versionId, differences: [] });
		expect((await deal()).versions).toHaveLength(2);
	});
	test("an owner who has left, one who isn’t there, and a rep who gives a deal away are refused", async () => {
		expect((await faultOf(() => edit({ ownerId: "gone" }, "d1", "boss"))).detail).toContain("Gil Orr is not with the company");
		expect((await faultOf(() => edit({ ownerId: "rep2" }))).status).toBe(422);
		expect((await faultOf(() => edit({ ownerId: "north" }, "d1", "rep1"))).status).toBe(403);
		await edit({ ownerId: "rep1" }, "d3");
		expect(await deal("d3")).toMatchObject({ ownerId: "rep1" });
		expect((await deal("d3")).flags.map((f) => f.code)).not.toContain("unowned");
	});
	test("a rep who tries another’s deal by its address finds nothing there", async () => {
		expect((await faultOf(() => edit({ amount: 1 }, "d2", "rep1"))).status).toBe(404);
		expect((await faultOf(() => edit({ amount: 1 }, "d2", "north"))).status).toBe(404);
		expect((await deal("d2")).versions).toHaveLength(1);
	});
	test("values that can’t be are refused with what is wrong", async () => {
		expect(await wordsOf(() => edit({ stage: "Limbo" }))).toContain("There are Enquiry, Survey, Terms, Won, Lost");
		expect(await wordsOf(() => edit({ currency: "JPY" }))).toContain("no rate from JPY");
		for (const [change, words] of [
			[{ amount: -1 }, "negative"],
			[{ amount: 2 ** 53 }, "too large"],
			[{ amount: 1.5 }, "whole minor units"],
			[{ closeDate: "2026-02-30" }, "valid day"],
			[{ nextStep: "x".repeat(501) }, "500 letters"],
			[{ reason: "only why" }, "Choose at least one field to change"],
			[{ colour: "red" }, "colour"],
		] as const) {
			expect(await wordsOf(() => changeSchema.parse(change))).toContain(words);
		}
	});
	test("markup in a next step stays text", async () => {
		await edit({ nextStep: "<script>alert(1)</script> call" });
		expect((await deal()).nextStep).toBe("<script>alert(1)</script> call");
	});
});

describe("changing many", () => {
	const targets = async () => Promise.all(["d1", "d3"].map(async (id) => ({ id, versionId: (await deal(id)).versionId })));
	test("shows first what it would do to each", async () => {
		const list = await previewEdit(await as("north"), { targets: await targets(), change: { category: "commit" } });
		expect(list.map((d) => [d.id, d.differences.map((x) => `${x.before} → ${x.after}`)])).toEqual([
			["d1", ["best case → commit"]],
			["d3", []],
		]);
		const needy = await previewEdit(await as("north"), { targets: await targets(), change: { closeDate: "2026-12-15" } });
		expect(needy.map((d) => Object.keys(d.needs))).toEqual([[], ["reason"]]);
		const [, gone] = await previewEdit(await as("boss"), { targets: await targets(), change: { ownerId: "gone" } });
		expect(gone?.fault ?? "").toBe("");
	});
	test("is all or nothing", async () => {
		const [a, b] = await targets();
		await faultOf(async () =>
			editDeals(await as("north"), { targets: [a as never, { id: "d3", versionId: (b?.versionId ?? 0) + 1000 }], change: { category: "left_out" } }),
		);
		expect((await deal()).category).toBe("best_case");
		const done = await editDeals(await as("north"), { targets: await targets(), change: { category: "left_out" } });
		expect(done).toHaveLength(2);
		expect([(await deal()).category, (await deal("d3")).category]).toEqual(["left_out", "left_out"]);
	});
});

describe("undoing", () => {
	test("brings back what stood, and leaves no trace in the trail of the same day", async () => {
		const before = await deal();
		const [done] = await edit({ closeDate: "2026-12-30", reason: "Board" });
		await undoEdit(await as("north"), { targets: [{ id: "d1", versionId: done?.versionId ?? 0 }] });
		const after = await deal();
		expect(after.trail).toEqual(before.trail);
		expect(after.versions).toHaveLength(before.versions.length + 2);
	});
	test("a loss is undone with its reason and competitor", async () => {
		const [done] = await edit({ stage: "Lost", outcomeReason: "Price", competitor: "Vostrel" });
		await undoEdit(await as("north"), { targets: [{ id: "d1", versionId: done?.versionId ?? 0 }] });
		expect(await deal()).toMatchObject({ status: "open", stage: "Survey", outcomeReason: null, competitor: null, nextStep: "Visit" });
	});
	test("isn’t for what somebody changed since, nor for another’s change", async () => {
		const [done] = await edit({ amount: 5 });
		expect((await faultOf(async () => undoEdit(await as("rep1"), { targets: [{ id: "d1", versionId: done?.versionId ?? 0 }] }))).status).toBe(403);
		await edit({ amount: 6 }, "d1", "rep1");
		expect((await faultOf(async () => undoEdit(await as("north"), { targets: [{ id: "d1", versionId: done?.versionId ?? 0 }] }))).status).toBe(409);
	});
});

describe("after a change", () => {
	test("what a process keeps is what it would read anew", async () => {
		await edit({ closeDate: "2026-12-30", reason: "Board" });
		await edit({ stage: "Won", closedOn: "2026-11-23" }, "d3");
		const { organisation } = await as("ops");
		const fresh = await loadOrganisation(connection().db, organisation.revision);
		expect(organisation.company.history).toEqual(fresh.company.history);
		expect(plain(organisation.company.deals)).toEqual(plain(fresh.company.deals));
	});
	test("an export gives the versions with who and why, and an import takes them back", async () => {
		await edit({ closeDate: "2026-12-30", reason: "Board, “they” say" });
		const { storedBundle } = await import("@/features/import/server/exportBundle");
		const first = await storedBundle();
		const text = new TextDecoder().decode(first.get("deal_versions.csv"));
		expect(text.split("\n")[0]).toContain("by_id,reason");
		expect(text).toContain("north,");
		const again = await importAs(first);
		expect(again.state).toBe("done");
		expect(Object.values(again.changed).every((n) => n === 0)).toBe(true);
	});
	test("the list and the sheet of the API give the same figures for any past day", async () => {
		const ops = await as("ops");
		for (const day of ["2026-10-05", "2026-11-03", "2026-11-10", "2026-11-18", "2026-11-24"]) {
			for (const listed of allDeals(ops, { as_of: day })) {
				const { versions: _, activities: __, answers: ___, tasks: ____, flags, ...one } = await readDeal(ops, listed.id, day);
				expect({ ...one, flags: flags.map(({ since: _since, ...flag }) => flag) }).toEqual(listed);
			}
		}
	});
});

describe("the screens and the API", () => {
	test("say the same of every deal on any past day", async () => {
		for (const day of ["2026-10-05", "2026-11-03", "2026-11-10", "2026-11-18", "2026-11-24"]) {
			const ops = await as("ops");
			const open = allDeals(ops, { as_of: day, status: "open" });
			const rows = [
				...readDeals(ops, resolveViewpoint(ops, { due: "any", seen: day })).rows,
				...readDeals(ops, resolveViewpoint(ops, { due: "none", seen: day })).rows,
			];
			expect(rows.map((r) => r.id).sort()).toEqual(open.map((d) => d.id).sort());
			for (const api of open) {
				const row = rows.find((r) => r.id === api.id);
				const sheet = await readSheet(ops, api.id, day, "2026-10-01");
				const flags = api.flags.map((flag) => flag.label);
				expect(row).toMatchObject({
					amount: api.amountBase,
					stage: api.stage,
					stageAge: api.stageAge,
					close: api.closeDate,
					score: api.attention.score,
					level: api.attention.level,
				});
				expect([row?.strength, row?.coverage, row?.expected, row?.pushes]).toEqual([
					api.qualification.strength,
					api.qualification.coverage,
					api.qualification.expected,
					api.trail.pushes,
				]);
				expect(row?.flags.map((flag) => flag.label)).toEqual(flags);
				expect(sheet.flags.map((flag) => flag.label)).toEqual(flags);
				expect(sheet.attention).toMatchObject(api.attention);
				expect([sheet.amount, sheet.stage, sheet.close, sheet.lastTouch]).toEqual([api.amountBase, api.stage, api.closeDate, api.lastTouch]);
			}
		}
	});
});
