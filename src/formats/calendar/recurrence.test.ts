import { expect, test } from "vitest";
import { isRecurrence, nextTimeOf, timesBetween } from "./recurrence";

const at = (iso: string) => Date.parse(`${iso}Z`);
const start = at("2026-01-05T09:17");
const iso = (time: number | null) => time && new Date(time).toISOString().slice(0, 16);

test("what never comes is known at once, at every pace and with every part", () => {
	const never = [
		"FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30",
		"FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30;COUNT=1",
		"FREQ=HOURLY;BYMONTH=2;BYMONTHDAY=30;BYMINUTE=1,2,3",
		"FREQ=WEEKLY;BYMONTH=4;BYMONTHDAY=31",
		"FREQ=MONTHLY;BYMONTHDAY=31;BYMONTH=6",
		"FREQ=YEARLY;BYMONTH=11;BYMONTHDAY=31",
		"FREQ=DAILY;BYYEARDAY=366;BYMONTH=3",
		"FREQ=DAILY;INTERVAL=7;BYDAY=TU",
		"FREQ=DAILY;BYMONTHDAY=13;BYMONTH=2;BYYEARDAY=1",
		"FREQ=DAILY;UNTIL=20260101T000000Z",
	];
	for (const rule of never) expect(nextTimeOf({ rule, start }, start), rule).toBeNull();
	expect(timesBetween({ rule: "FREQ=HOURLY;COUNT=9000000", start: at("1970-01-01T00:00") }, start, start + 86_400_000)).toEqual([]);
});

test("a step that is far from the start is what counting from the start comes to", () => {
	for (const [rule, after, next] of [
		["FREQ=HOURLY", "2026-11-24T05:00", "2026-11-24T05:17"],
		["FREQ=HOURLY;INTERVAL=7", "2026-01-06T05:00", "2026-01-06T06:17"],
		["FREQ=DAILY;INTERVAL=3", "2026-01-12T00:00", "2026-01-14T09:17"],
		["FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,FR", "2026-01-12T00:00", "2026-01-19T09:17"],
		["FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,FR;BYHOUR=6;BYMINUTE=30", "2026-01-19T07:00", "2026-01-23T06:30"],
		["FREQ=MONTHLY;BYDAY=-1FR", "2026-11-24T05:00", "2026-11-27T09:17"],
		["FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1", "2026-10-01T05:00", "2026-10-30T09:17"],
		["FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29", "2026-11-24T05:00", "2028-02-29T09:17"],
		["FREQ=DAILY;COUNT=3", "2026-01-06T10:00", "2026-01-07T09:17"],
		["FREQ=DAILY;COUNT=3", "2026-01-07T10:00", null],
	] as const)
		expect(iso(nextTimeOf({ rule, start }, at(after))), `${rule} after ${after}`).toBe(next);
});

test("each time follows from the one before: none is lost and none comes twice", () => {
	for (const rule of [
		"FREQ=HOURLY;INTERVAL=5",
		"FREQ=DAILY;INTERVAL=2;BYDAY=MO,WE",
		"FREQ=WEEKLY;INTERVAL=3;BYDAY=SU,TU;WKST=SU",
		"FREQ=MONTHLY;BYMONTHDAY=31",
	]) {
		const end = at("2027-06-01T00:00");
		const all = timesBetween({ rule, start }, start, end);
		const walked: number[] = [];
		for (let time = nextTimeOf({ rule, start }, start - 1); time !== null && time <= end; time = nextTimeOf({ rule, start }, time)) walked.push(time);
		expect(walked, rule).toEqual(all);
	}
});

test("a rule is hourly at most", () => {
	expect(["FREQ=MINUTELY", "FREQ=SECONDLY", "daily", "", "BYDAY=MO"].map(isRecurrence)).toEqual([false, false, false, false, false]);
});
