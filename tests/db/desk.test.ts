import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { editDeals } from "@/features/deals/server/editDeals";
import { savePerson } from "@/features/people/server/managePeople";
import { readDeal } from "@/features/sheet/server/readDeal";
import { changeTask } from "@/features/tasks/server/changeTask";
import { readOwnTasks, readTasks } from "@/features/tasks/server/readTasks";
import { reachOf } from "@/platform/reach";
import { small } from "../kit/bundle";
import { day } from "../kit/company";
import { as, freshDatabase, importAs } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("desk");
	await importAs(
		small({
			"tasks.csv": [
				"id,deal_id,title,assignee_id,due_on,created_at,done_at,state,flags",
				"t1,d1,Later,rep1,2026-11-27,2026-11-20T09:00:00Z,,open,no-next-step",
				"t2,d1,Overdue,rep1,2026-11-20,2026-11-16T09:00:00Z,,open,",
				"t3,d1,Done late,rep1,2026-11-18,2026-11-16T09:00:00Z,2026-11-19T09:00:00Z,done,",
				"t4,d2,Of the South,rep2,2026-11-25,2026-11-16T09:00:00Z,,open,",
				"t5,,Without a deal,north,2026-11-25,2026-11-16T09:00:00Z,,open,",
			],
		}),
	);
});
afterAll(() => database.drop());

const own = async (person: string, iso = "2026-11-24") => (await readOwnTasks(await as(person), day(iso))).own;
const seen = async (person: string, iso = "2026-11-24") => {
	const context = await as(person);
	return readTasks(context, reachOf(context.organisation, context.actor), day(iso));
};
const ids = (rows: readonly { id: string }[]) => rows.map((row) => row.id);

describe("a desk", () => {
	test("holds one’s own tasks, the soonest due first, and says which are overdue", async () => {
		const rows = await own("rep1");
		expect(ids(rows.filter((row) => row.state === "open"))).toEqual(["t2", "t1"]);
		expect(rows.filter((row) => row.overdue).map((row) => row.title)).toEqual(["Overdue"]);
		expect(ids(await own("rep2"))).toEqual(["t4"]);
		expect(ids(await own("north"))).toEqual(["t5"]);
	});
	test("of a past day is that day’s: what was done later is open, what was given later isn’t there", async () => {
		const rows = await own("rep1", "2026-11-18");
		expect(ids(rows).sort()).toEqual(["t2", "t3"]);
		expect(rows.find((row) => row.id === "t3")).toMatchObject({ state: "open", doneOn: null, overdue: false });
	});
});

describe("the manager’s tasks", () => {
	test("are those of the people and deals one sees", async () => {
		expect(ids(await seen("north")).sort()).toEqual(["t1", "t2", "t3", "t5"]);
		expect(ids(await seen("rep2"))).toEqual(["t4"]);
		expect(await seen("boss")).toHaveLength(5);
	});
	test("live without a deal", async () => {
		const rows = await seen("boss");
		expect(rows.find((row) => row.id === "t5")).toMatchObject({ deal: "No deal", account: "", close: null });
	});
});

describe("rows that are kept", () => {
	/** Another day asked for in between: everything is put together anew. */
	const anew = async () => {
		await seen("boss", "2026-11-20");
		return seen("boss");
	};
	test("are what they would be if put together anew, whatever has been written", async () => {
		const rep = (await as("rep1")).actor.person;
		const writes = [
			async () => changeTask(await as("rep1"), { id: "t2", dueOn: "2026-12-02" }),
			async () => changeTask(await as("rep1"), { id: "t2", state: "done", note: "Rang" }),
			async () =>
				editDeals(await as("north"), {
					targets: [{ id: "d1", versionId: (await readDeal(await as("north"), "d1", undefined)).versionId }],
					change: { amount: 77_000 },
				}),
			async () =>
				savePerson(await as("ops"), { id: "rep1", name: "Rae Penfold", email: rep.email, role: "rep", team: rep.team, activeFrom: null, activeTo: null }),
		];
		for (const write of writes) {
			const before = await seen("boss");
			await write();
			const after = await seen("boss");
			expect(after).not.toEqual(before);
			expect(after).toEqual(await anew());
			expect((await seen("boss"))[0]).toBe((await seen("boss"))[0]);
		}
	});
});
