import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { outbox } from "@/data/schema";
import { editDeals } from "@/features/deals/server/editDeals";
import { undoEdit } from "@/features/deals/server/undoEdit";
import { importById, listImports } from "@/features/import/server/importBundle";
import { createKey, revokeKey } from "@/features/people/server/keys";
import { savePerson } from "@/features/people/server/managePeople";
import { holdDay } from "@/features/setup/server/holdDay";
import { type AuditLook, PROGRAM, readAudit } from "@/features/setup/server/readAudit";
import { readDeal } from "@/features/sheet/server/readDeal";
import { changeTasks } from "@/features/tasks/server/changeTasks";
import { giveTasks } from "@/features/tasks/server/giveTasks";
import { undoTaskChanges } from "@/features/tasks/server/undoChanges";
import { instantDay } from "@/ui/format";
import { as, freshDatabase, importAs, refill } from "../kit/database";
import { inspected } from "../kit/inspection";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("audit");
});
beforeEach(() => refill(inspected()));
afterAll(() => database.drop());

const read = async (look: Partial<AuditLook> = {}) => readAudit(await as("ops"), { limit: 50, ...look });
const told = async (look: Partial<AuditLook> = {}) =>
	(await read(look)).entries.map(({ who, action, deal, about, detail }) => `${who}: ${action} ${deal?.name ?? about ?? ""}: ${detail}`);

describe("an entry says", () => {
	test("what of a deal was changed, and what its undoing brought back", async () => {
		const versionId = (await readDeal(await as("boss"), "d1", undefined)).versionId;
		const [edited] = await editDeals(await as("north"), { targets: [{ id: "d1", versionId }], change: { nextStep: "Call the oven maker" } });
		await undoEdit(await as("north"), { targets: [{ id: "d1", versionId: edited?.versionId ?? 0 }] });
		const [undone, changed] = await told();
		expect(changed).toMatch(/^Nora Thistle: deal changed Deck ovens: Next step .* → Call the oven maker/);
		expect(undone).toMatch(/^Nora Thistle: deal change undone Deck ovens: Next step Call the oven maker → /);
	});

	test("of each task what was moved and to whom it went, and what was undone", async () => {
		const { tasks } = await giveTasks(await as("north"), { dealIds: ["d1"], title: "Ask for the plan", dueOn: "2026-11-27" });
		const { changes } = await changeTasks(await as("boss"), { ids: [tasks[0]?.id ?? ""], dueOn: "2026-12-04", assigneeId: "north", why: "She knows them" });
		await undoTaskChanges(await as("boss"), { changes });
		const [undone, changed, given] = await told();
		expect(given).toBe("Nora Thistle: tasks given : tasks Ask for the plan; title Ask for the plan");
		expect(changed).toBe("Bo Sable: task changed Ask for the plan: due on 2026-11-27 → 2026-12-04; assignee Rae Penn → Nora Thistle; why She knows them");
		expect(undone).toBe("Bo Sable: task change undone Ask for the plan: due on 2026-12-04 → 2026-11-27; assignee Nora Thistle → Rae Penn");
	});

	test("of a person, a key and the clock, with names instead of ids", async () => {
		const person = { id: "view", name: "Vi Ewer", email: "view@firm.example", role: "viewer", team: null, activeFrom: null, activeTo: "2026-12-31" } as const;
		await savePerson(await as("ops"), person);
		const { id } = await createKey(await as("rep1"), { name: "Sheet", write: false, areas: [], days: 30 });
		await revokeKey(await as("ops"), { id });
		await holdDay(await as("ops"), { day: "2026-11-25" });
		const [clock, revoked, created, saved] = await told();
		expect(saved).toMatch(/^Oda Pell: person changed Vi Ewer: .*active to nothing → 2026-12-31/);
		// Keys end by the server's own time, whatever day is held.
		const until = new Intl.DateTimeFormat("sv-SE", { timeZone: "Europe/Berlin" }).format(Date.now() + 30 * 86_400_000);
		expect(created).toContain(`Rae Penn: key created Sheet: name Sheet; areas all; until ${until}; write no`);
		expect(revoked).toMatch(/^Oda Pell: key revoked Sheet: .*of Rae Penn/);
		expect(clock).toBe("Oda Pell: clock set : 2026-11-24 → 2026-11-25");
	});
});

test("entries are chosen by kind, by person and by what they are about, also where that stands within", async () => {
	await giveTasks(await as("north"), { dealIds: ["d1"], title: "First" });
	const { tasks } = await giveTasks(await as("boss"), { dealIds: ["d2"], title: "Second" });
	const id = tasks[0]?.id ?? "";
	await changeTasks(await as("boss"), { ids: [id], dueOn: "2026-12-04" });
	const all = await read();
	expect(all.kinds.reduce((sum, kind) => sum + kind.count, 0)).toBe(all.count);
	expect(all.people.reduce((sum, person) => sum + person.count, 0)).toBe(all.count);
	for (const { key, count } of all.kinds) expect([key, (await read({ kind: key })).count]).toEqual([key, count]);
	for (const { id: by, count } of all.people) expect([by, (await read({ by })).count]).toEqual([by, count]);
	expect(all.people.map((person) => person.id)).toContain(PROGRAM);
	expect((await read({ of: id })).entries.map((entry) => entry.action)).toEqual(["task changed", "tasks given"]);
	expect((await read({ of: id })).of).toEqual({ id, name: "Second" });
	expect((await read({ kind: "tasks given", by: "north" })).entries.map((entry) => entry.detail)).toEqual(["tasks First; title First"]);
	expect((await read({ kind: "tasks given", by: "rep1" })).count).toBe(0);
	expect((await read({ of: "100%_" })).count).toBe(0);
});

test("while the day is held, audit, mail and imports speak of that day", async () => {
	await giveTasks(await as("north"), { dealIds: ["d1"], title: "Held" });
	const report = await importAs(inspected());
	const days = [
		...(await read()).entries.slice(0, 2).map((entry) => entry.at),
		(await importById(report.id)).endedAt ?? "",
		...(await connection().db.select({ at: outbox.createdAt }).from(outbox)).map(({ at }) => at.toISOString()),
	].map((at) => instantDay(at, "Europe/Berlin"));
	// In the organisation's zone: at one in the morning there, the day before hasn't ended by UTC.
	expect(new Set(days)).toEqual(new Set(["24 Nov 2026"]));
	expect((await listImports(await as("ops"))).length).toBeGreaterThan(0);
});
