import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { formatDay } from "@/core/time/day";
import { readChanges } from "@/features/changes/server/readChanges";
import { Fault } from "@/platform/fault";
import { resolveViewpoint, type ViewpointQuery, viewpointChoices } from "@/platform/viewpoint";
import { small } from "../kit/bundle";
import { day } from "../kit/company";
import { as, freshDatabase, importAs } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("viewpoint");
	await importAs(
		small({
			"holidays.csv": ["date,name", "2026-12-25,Christmas Day"],
			"marks.csv": [
				"at,name",
				"2026-11-09T08:30:00Z,Monday round",
				"2026-11-16T08:30:00Z,Monday round",
				"2026-11-23T08:30:00Z,Monday round",
				"2026-11-17T22:59:00Z,Night",
			],
		}),
	);
});
afterAll(() => database.drop());

const read = async (person: string, query: ViewpointQuery = {}) => resolveViewpoint(await as(person), query);
const words = async (person: string, query: ViewpointQuery = {}) => {
	const s = await read(person, query);
	return `${s.whose.label} deals due in ${s.due.label}, seen ${s.seen.label} against ${s.against.label}`;
};
const refusal = (person: string, query: ViewpointQuery) =>
	read(person, query).then(
		() => "taken",
		(error) => (error instanceof Fault ? `${error.status} ${error.detail}` : String(error)),
	);

describe("the viewpoint", () => {
	test("begins with one’s own people, this quarter, today, and the last named mark a week back", async () => {
		expect(await words("boss")).toBe("Everyone’s deals due in Oct–Dec 2026, seen today against Mon 16 Nov");
		expect(await words("ops")).toMatch(/^Everyone’s deals/);
		expect(await words("north")).toMatch(/^North team’s deals/);
		expect(await words("view")).toMatch(/^North team’s deals/);
		expect(await words("rep1")).toMatch(/^My deals/);
	});
	test("takes quarters, months, ranges, any period and no date", async () => {
		const due = async (key: string) => (await read("boss", { due: key })).due;
		expect((await due("2027-Q1")).label).toBe("Jan–Mar 2027");
		expect((await due("2026-11")).label).toBe("Nov 2026");
		expect((await due("2026-11-03..2026-11-10")).label).toBe("3 Nov 2026 – 10 Nov 2026");
		expect((await due("..2026-09-30")).label).toBe("the time to 30 Sep 2026");
		expect((await due("any")).label).toBe("any period");
		expect((await due("none")).period).toBeNull();
	});
	test("seen in the past takes that quarter, and says the year where it differs", async () => {
		expect(await words("boss", { seen: "2026-09-15" })).toBe("Everyone’s deals due in Jul–Sep 2026, seen Tue 15 Sep against Tue 8 Sep");
		expect((await read("boss", { seen: "2025-09-15" })).seen).toMatchObject({ label: "Mon 15 Sep 2025", past: true });
	});
	test("counts the working days that are left, without weekends and holidays", async () => {
		expect((await read("boss")).workingDaysLeft).toBe(26);
		expect((await read("boss", { due: "2026-Q3" })).workingDaysLeft).toBe(0);
		expect((await read("boss", { due: "any" })).workingDaysLeft).toBeNull();
	});
	test("takes any earlier day to compare with", async () => {
		expect((await read("boss", { against: "2026-10-01" })).against).toEqual({ key: "2026-10-01", day: day("2026-10-01"), label: "Thu 1 Oct" });
	});
	test("compares with moments that move along: a week before, the start of the period, the last mark", async () => {
		const against = async (query: ViewpointQuery) => {
			const { day: on, label: told } = (await read("boss", query)).against;
			return `${formatDay(on)} ${told}`;
		};
		expect(await against({ against: "week" })).toBe("2026-11-17 a week before");
		expect(await against({ against: "week", seen: "2026-11-10" })).toBe("2026-11-03 a week before");
		// What a period starts with stood at the end of the day before it.
		expect(await against({ against: "start" })).toBe("2026-09-30 the start of the period");
		expect(await against({ against: "start", due: "2026-11" })).toBe("2026-10-31 the start of the period");
		expect(await against({ against: "start", seen: "2026-10-01" })).toBe("2026-09-30 the start of the period");
		expect(await against({ against: "mark" })).toBe("2026-11-23 Monday round, Mon 23 Nov");
		expect(await against({ against: "mark", seen: "2026-11-20" })).toBe("2026-11-16 Monday round, Mon 16 Nov");
		expect(await against({ against: "round" }), "as addresses had it before").toBe("2026-11-23 Monday round, Mon 23 Nov");
		expect(await refusal("boss", { against: "start", due: "any" })).toMatch(/this one has none/);
		expect(await refusal("boss", { against: "start", due: "2027-Q1" })).toMatch(/is after the day shown/);
		expect(await refusal("boss", { against: "mark", seen: "2020-01-01" })).toMatch(/none was saved before 2020-01-01/);
	});
	test("says from when on anything is known, where a day lies before", async () => {
		expect((await read("boss")).knownFrom).toBeNull();
		const known = (await read("boss", { against: "2020-01-01" })).knownFrom;
		expect(known).toBeGreaterThan(day("2020-01-01"));
		expect((await read("boss", { against: formatDay(known ?? 0) })).knownFrom).toBeNull();
	});
	test("a period without an end or a start is compared as any other", async () => {
		expect((await read("boss", { due: "2026-10-01.." })).due.label).toBe("the time from 1 Oct 2026");
		expect((await read("boss", { due: "2026-10-01.." })).workingDaysLeft).toBeNull();
		const context = await as("boss");
		const open = readChanges(context, resolveViewpoint(context, { due: "2026-10-01.." }));
		const any = readChanges(context, resolveViewpoint(context, { due: "any" }));
		expect(open?.closing).toBeLessThanOrEqual(any?.closing ?? 0);
		expect(await refusal("boss", { due: "2026-10-01..2026-09-01" })).toMatch(/^400 “due”/);
	});
	test("limits a team to what one sees of it", async () => {
		const context = await as("north");
		const scope = resolveViewpoint(context, { whose: "team:Firm" }).whose.scope;
		expect([...(scope ?? [])].map((i) => context.organisation.people[i]?.id).sort()).toEqual(["gone", "north", "rep1", "view"]);
	});
	test("that can’t be read is refused in words", async () => {
		expect(await refusal("boss", { due: "2026-Q5" })).toMatch(/^400 “due” is 2026-Q5; it must be a quarter/);
		expect(await refusal("boss", { seen: "2026-02-30" })).toMatch(/^400 “seen” is 2026-02-30/);
		expect(await refusal("boss", { seen: "2026-11-25" })).toMatch(/in the future/);
		expect(await refusal("boss", { against: "2026-11-24" })).toMatch(/must be before the day shown/);
		expect(await refusal("boss", { against: "yesterday" })).toMatch(/^400 “against”/);
		expect(await refusal("boss", { whose: "team:Moon" })).toMatch(/no such team or person/);
		expect(await refusal("north", { whose: "person:rep2" })).toMatch(/^403/);
	});
});

describe("what its phrases offer", () => {
	test("is what the person may see", async () => {
		const offer = async (person: string) => {
			const context = await as(person);
			return viewpointChoices(context, context.now.day);
		};
		expect((await offer("boss")).teams.map((t) => t.label)).toEqual(["Firm", "North", "South"]);
		expect((await offer("north")).people.map((p) => p.label)).toEqual(["Gil Orr", "Rae Penn"]);
		expect((await offer("rep1")).teams).toEqual([]);
		expect((await offer("boss")).everyone).toBe(true);
	});
	test("are five quarters around the seen day, and the named marks, newest first, without the nightly ones", async () => {
		const context = await as("boss");
		const { quarters, marks } = viewpointChoices(context, context.now.day);
		expect(quarters.map((q) => q.key)).toEqual([
			"2026-04-01..2026-06-30",
			"2026-07-01..2026-09-30",
			"2026-10-01..2026-12-31",
			"2027-01-01..2027-03-31",
			"2027-04-01..2027-06-30",
		]);
		expect(marks.map((m) => m.key)).toEqual(["2026-11-23", "2026-11-16", "2026-11-09"]);
		expect(marks[0]?.label).toBe("Monday round, Mon 23 Nov");
	});
	test("every choice can be taken", async () => {
		const context = await as("boss");
		const { quarters, marks, teams, people } = viewpointChoices(context, context.now.day);
		for (const q of quarters) expect(formatDay(resolveViewpoint(context, { due: q.key }).due.period?.start ?? 0)).toBe(q.start);
		for (const m of marks) expect(resolveViewpoint(context, { against: m.key }).against.day).toBe(day(m.key));
		for (const w of [...teams, ...people]) expect(resolveViewpoint(context, { whose: w.key }).whose.key).toBe(w.key);
	});
});
