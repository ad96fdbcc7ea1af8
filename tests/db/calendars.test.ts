import { eq } from "drizzle-orm";
import ical from "node-ical";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { activities, feeds } from "@/data/schema";
import { previewCalendar, readFeed, removeFeed, renewFeed, takeCalendar } from "@/features/calendars/server/calendars";
import { feedOf, taskCalendar } from "@/features/calendars/server/feed";
import { logActivity } from "@/features/sheet/server/logActivity";
import { changeTask } from "@/features/tasks/server/changeTask";
import { giveEach } from "@/features/tasks/server/giveTasks";
import { readOwnTasks } from "@/features/tasks/server/readTasks";
import { small } from "../kit/bundle";
import { as, freshDatabase, importAs } from "../kit/database";
import { faultOf, wordsOf } from "../kit/fault";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("calendars");
	await importAs(small());
});
afterAll(() => database.drop());

const tokenOf = async (who: string) => (await renewFeed(await as(who), {})).path.slice("/calendar/".length, -".ics".length);
const titles = (text: string) => Object.values(ical.sync.parseICS(text)).flatMap((one) => (one?.type === "VEVENT" ? [String(one.summary)] : []));

describe("a feed", () => {
	test("read by a parser of others’ shows open tasks on their days and what is planned, and nobody else’s", async () => {
		const given = await giveEach(await as("boss"), {
			lines: [
				{ dealId: "d1", title: "Ring them; ask, \\ “why”\n", dueOn: "2026-11-27", checklist: ["Prices"] },
				{ dealId: "d2", title: "Of another", dueOn: "2026-11-27" },
				{ dealId: "d1", title: "Done by then", dueOn: "2026-11-30" },
			],
		});
		await changeTask(await as("rep1"), { id: given.tasks[2]?.id ?? "", state: "done" });
		await logActivity(await as("rep1"), { dealId: "d1", kind: "meeting", direction: "both", subject: "Tasting", day: "2026-12-02" });
		const text = (await feedOf(await tokenOf("rep1"))) ?? "";
		expect(text.split("\r\n").every((line) => Buffer.byteLength(line) <= 75)).toBe(true);
		const events = Object.values(ical.sync.parseICS(text)).flatMap((one) => (one?.type === "VEVENT" ? [one] : []));
		expect(events.map(({ summary }) => String(summary)).sort()).toEqual(["Ring them; ask, \\ “why”", "Tasting"]);
		const task = events.find(({ summary }) => String(summary).startsWith("Ring"));
		expect([task?.datetype, task?.start.getFullYear(), task?.start.getMonth(), task?.start.getDate()]).toEqual(["date", 2026, 10, 27]);
		expect(String(task?.description)).toContain("Prices");
		expect(String(task?.url)).toContain("/deals/d1?task=");
		expect(text).toContain("REFRESH-INTERVAL;VALUE=DURATION:PT1H");
		expect(titles(await taskCalendar(await as("rep1"), given.tasks[0]?.id ?? ""))).toHaveLength(1);
		expect((await faultOf(async () => taskCalendar(await as("rep2"), given.tasks[0]?.id ?? ""))).status).toBe(404);
	});
	test("is kept secret: its token is stored as a hash, another one ends it, and so does taking it away", async () => {
		const first = await tokenOf("rep2");
		const [stored] = await connection().db.select().from(feeds).where(eq(feeds.personId, "rep2"));
		expect(JSON.stringify(stored)).not.toContain(first);
		const second = await tokenOf("rep2");
		expect([await feedOf(first), (await feedOf(second)) !== null]).toEqual([null, true]);
		await removeFeed(await as("rep2"), {});
		expect([await feedOf(second), (await readFeed(await as("rep2"))).since]).toEqual([null, null]);
	});
});

describe("a file of another calendar", () => {
	const file = (...events: string[]) => `BEGIN:VCALENDAR\nVERSION:2.0\n${events.join("\n")}\nEND:VCALENDAR\n`;
	const event = (lines: string, name = "VEVENT") => `BEGIN:${name}\n${lines}\nEND:${name}`;
	const look = async (text: string) => previewCalendar(await as("rep1"), { text });
	test("is looked at first: all-day ones, times of other zones, to-dos, what repeats; with any line ends", async () => {
		const text = file(
			event("UID:a\nSUMMARY:Whole day\nDTSTART;VALUE=DATE:20261203"),
			event("UID:b\nSUMMARY:Late in New York\nDTSTART:20261204T010000Z"),
			event("UID:c\nSUMMARY:To do\nDUE;VALUE=DATE:20261205", "VTODO"),
			event("UID:d\nSUMMARY:Every Monday\nDTSTART;VALUE=DATE:20250106\nRRULE:FREQ=WEEKLY"),
			event("UID:e\nSUMMARY:Elsewhere\nDTSTART;TZID=Moon/Crater:20261206T100000"),
			event("UID:f\nDTSTART;VALUE=DATE:20261203"),
		);
		for (const ends of ["\n", "\r\n", "\r"]) {
			const { items, problems } = await look(text.replaceAll("\n", ends));
			expect(items.map(({ title, day }) => [title, day])).toEqual([
				["Whole day", "2026-12-03"],
				["Late in New York", "2026-12-04"],
				["Every Monday", "2026-11-30"],
				["Elsewhere", "2026-12-06"],
				["To do", "2026-12-05"],
			]);
			expect(problems).toHaveLength(1);
			expect(items[3]?.warning).toContain("Moon/Crater isn’t known");
		}
	});
	test("that is none, or repeats a million times, is told or cut short", async () => {
		expect((await look("hello")).problems[0]).toContain("can’t be read as a calendar");
		expect((await look(file())).problems[0]).toContain("no events");
		const started = performance.now();
		const { items } = await look(file(event("UID:x\nSUMMARY:Each second\nDTSTART:19700101T000000Z\nRRULE:FREQ=SECONDLY;COUNT=1000000")));
		expect([items.length, performance.now() - started < 3000]).toEqual([1, true]);
	});
	test("is taken in once, as tasks of one’s own or as planned activities of a deal", async () => {
		const text = file(event("UID:t1\nSUMMARY:Send the plan\nDTSTART;VALUE=DATE:20261208"), event("UID:t2\nSUMMARY:Past\nDTSTART;VALUE=DATE:20261101"));
		expect(await takeCalendar(await as("rep1"), { text, uids: ["t1", "t2"], as: "task" })).toEqual({ made: 1, left: 1 });
		expect(await takeCalendar(await as("rep1"), { text, uids: ["t1"], as: "task" })).toEqual({ made: 0, left: 1 });
		expect((await look(text)).items[0]?.known).toBe(true);
		expect((await readOwnTasks(await as("rep1"), (await as("rep1")).now.day)).own).toContainEqual(
			expect.objectContaining({ title: "Send the plan", dueOn: "2026-12-08" }),
		);
		expect(await wordsOf(async () => takeCalendar(await as("rep1"), { text, uids: ["t1"], as: "activity" }))).toContain("Choose the deal");
		await takeCalendar(await as("rep1"), { text, uids: ["t1"], as: "activity", dealId: "d1" });
		expect(await connection().db.select().from(activities).where(eq(activities.subject, "Send the plan"))).toMatchObject([{ state: "planned", dealId: "d1" }]);
		expect((await faultOf(async () => takeCalendar(await as("rep1"), { text, uids: ["t1"], as: "activity", dealId: "d2" }))).status).toBe(404);
	});
});
