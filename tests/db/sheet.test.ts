import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { readSheet } from "@/features/sheet/server/readSheet";
import type { SheetView } from "@/features/sheet/server/sheetView";
import { changeTask } from "@/features/tasks/server/changeTask";
import { giveTasks } from "@/features/tasks/server/giveTasks";
import { small } from "../kit/bundle";
import { as, freshDatabase, importAs } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("sheet");
	await importAs(
		small({
			"contacts.csv": ["id,account_id,name,title,email,buying_role,reports_to_id", "c1,a1,Ada Holm,Owner,,decision_maker,", "c2,a1,Ben Rye,Baker,,champion,c1"],
			"deal_contacts.csv": ["deal_id,contact_id", "d1,c1", "d1,c2"],
			"activities.csv": [
				"id,deal_id,account_id,contact_ids,kind,direction,state,at,by_id,subject,body",
				"x1,d1,a1,c1,email,in,done,2026-11-18T09:00:00Z,,Asks for a price,How much is it?",
				"x2,d1,a1,c2,call,both,planned,2026-11-30T09:00:00Z,rep1,Call back,",
				"x3,d1,a1,c2,call,both,done,2026-11-12T09:00:00Z,rep1,First call,",
				"x4,d1,a1,,note,none,done,2026-11-20T09:00:00Z,rep1,Chimney is old,",
			],
			"questions.csv": ["id,area,prompt,help,weight,due_stage_position,key", "q1,Need,What hurts?,,1,1,true", "q2,People,Who signs?,,3,2,true"],
			"answers.csv": [
				"deal_id,question_id,level,note,at,by_id",
				"d1,q1,assumed,Perhaps,2026-11-04T09:00:00Z,rep1",
				"d1,q1,heard,They said so,2026-11-12T09:00:00Z,rep1",
			],
			"quotes.csv": [
				"id,deal_id,number,sent_on,valid_until,answered_on,answer,amount,currency",
				"k1,d1,Q-1,2026-11-10,2026-11-20,,,1200,EUR",
				"k2,d1,Q-2,2026-11-23,2026-12-20,,,1200,EUR",
			],
			"deal_lines.csv": ["deal_id,product,family,quantity,list_price,unit_price,currency", "d1,Deck oven,Ovens,2,700,600,EUR"],
		}),
	);
});
afterAll(() => database.drop());

const sheet = async (seen = "2026-11-24", against = "2026-11-09", person = "north"): Promise<SheetView> => readSheet(await as(person), "d1", seen, against);

describe("a deal’s sheet", () => {
	test("says who waits, since when and for how many working days", async () => {
		expect(await sheet()).toMatchObject({ lastTouch: "2026-11-18", lastTouchDays: 4, waiting: { side: "they", since: "2026-11-18", days: 4 } });
		expect((await sheet("2026-11-13")).waiting).toBeNull();
		expect(await sheet("2026-11-10")).toMatchObject({ lastTouch: null, lastTouchDays: null });
	});
	test("lists each question with its newest answer seen on the day, and its gaps", async () => {
		const [need, signs] = (await sheet()).qualification.questions;
		expect(need).toMatchObject({ level: "heard", note: "They said so", gap: false, due: true, key: true });
		expect(signs).toMatchObject({ level: "unknown", note: null, gap: true });
		expect((await sheet("2026-11-05", "2026-11-01")).qualification.questions[0]).toMatchObject({ level: "assumed", note: "Perhaps" });
	});
	test("tells what differs since the earlier day, flags too", async () => {
		const view = await sheet();
		expect(view.changes).toEqual([
			{ field: "Stage", before: "Enquiry", after: "Survey" },
			{ field: "Amount", before: "€1\u00a0001", after: "€1\u00a0200" },
			{ field: "Close date", before: "1 Dec", after: "18 Dec" },
			{ field: "Category", before: "pipeline", after: "best case" },
			{ field: "Next step", before: "Call", after: "Visit" },
			{ field: "Next step’s day", before: "5 Nov", after: "20 Nov" },
		]);
		expect(view.lit).toEqual(["reply-owed"]);
		expect((await sheet("2026-11-24", "2026-10-30")).newSince).toBe(true);
	});
	test("draws the trail with its quarter ends, and each visit against the usual", async () => {
		const view = await sheet();
		expect(view.trail.points).toMatchObject([
			{ set: "2026-11-02", close: "2026-12-01" },
			{ set: "2026-11-10", close: "2026-12-18" },
		]);
		expect(view.trail.quarterEnds).toEqual(["2026-12-31"]);
		expect(view.visits).toMatchObject([
			{ stage: "Enquiry", length: 6, finished: true, usual: 10, limit: 20, most: "nine of ten", measured: false },
			{ stage: "Survey", length: 10, finished: false },
		]);
	});
	test("holds one timeline of all that happened, newest first, with nothing of the future but what is planned", async () => {
		const now = (await sheet()).happenings;
		expect(now.map((h) => h.at)).toEqual(
			now
				.map((h) => h.at)
				.sort()
				.reverse(),
		);
		expect(now.filter((h) => h.planned).map((h) => h.what)).toEqual(["Call: Call back"]);
		expect(now.map((h) => h.kind)).toEqual(expect.arrayContaining(["contact", "internal", "change", "answer"]));
		expect(now.find((h) => h.kind === "change")?.what).toBe(
			"Stage Enquiry → Survey; Amount €1\u00a0001 → €1\u00a0200; Close date 1 Dec 2026 → 18 Dec 2026; Category pipeline → best case; Next step Call → Visit; Next step’s day 5 Nov 2026 → 20 Nov 2026",
		);
		expect(now.find((h) => h.what.startsWith("Email"))).toMatchObject({ direction: "in", detail: "How much is it?", by: "Ada Holm" });
		const then = (await sheet("2026-11-10")).happenings.filter((h) => !h.planned);
		for (const happening of then) expect(happening.day <= "2026-11-10").toBe(true);
	});
	test("shows people with when each was last spoken to, quotes and lines", async () => {
		const view = await sheet();
		expect(view.people).toMatchObject([
			{ name: "Ada Holm", title: "Owner", role: "decision_maker", last: "2026-11-18" },
			{ name: "Ben Rye", title: "Baker", role: "champion", last: "2026-11-12" },
		]);
		expect(view.quotes.map((q) => q.number)).toEqual(["Q-2", "Q-1"]);
		expect((await sheet("2026-11-11")).quotes.map((q) => q.number)).toEqual(["Q-1"]);
		expect(view.lines).toEqual([{ product: "Deck oven", quantity: "2", list: 70_000, sold: 60_000, currency: "EUR" }]);
	});
	test("has its attention’s parts multiply to the score", async () => {
		const { score, risk, stake, urgency } = (await sheet()).attention;
		expect(score).toBe(Math.round(100 * risk * (0.5 + 0.5 * stake) * (0.5 + 0.5 * urgency)));
	});
	test("shows tasks as they stood: open until they were done", async () => {
		const given = await giveTasks(await as("north"), { dealIds: ["d1"], title: "Answer Ada", dueOn: "2026-11-25" });
		const id = given.tasks[0]?.id as string;
		expect((await sheet()).tasks).toMatchObject([{ id, title: "Answer Ada", assignee: "Rae", due: "2026-11-25", state: "open", late: false }]);
		expect((await sheet("2026-11-23")).tasks).toEqual([]);
		await changeTask(await as("rep1"), { id, state: "done", note: "Sent the price" });
		const view = await sheet();
		expect(view.tasks[0]?.state).toBe("done");
		expect(view.happenings.find((h) => h.what === "Task done: Answer Ada")?.detail).toBe("Sent the price");
	});
	test("offers tasks only today, on open deals, to those who may give them", async () => {
		const may = async (person: string, seen?: string) => (await sheet(seen, undefined, person)).mayAssign;
		expect([await may("north"), await may("rep1"), await may("view"), await may("ops"), await may("north", "2026-11-20")]).toEqual([
			true,
			true,
			false,
			false,
			false,
		]);
	});
});
