import { describe, expect, test } from "vitest";
import { makeCalendar } from "@/core/time/calendar";
import { makeZone } from "@/core/time/zone";
import { holidaysAround } from "@/fakes/emberwick/almanac";
import { generate } from "@/fakes/emberwick/generate";
import { readBundle } from "@/formats/bundle/read";
import { day } from "../kit/company";

const today = day("2026-11-24");
const files = generate({ today, deals: 150 });
const { bundle, problems } = readBundle(files, { timeZone: "UTC", baseCurrency: "EUR" });
const rows = (file: Parameters<typeof bundle.files.get>[0]) => bundle.files.get(file) ?? [];

describe("the demo company", () => {
	test("is the same bytes for the same seed and day, and others for another seed", () => {
		expect([...generate({ today, deals: 150 })]).toEqual([...files]);
		expect([...generate({ today, deals: 150, seed: "other" })]).not.toEqual([...files]);
	});
	test("reads without a problem", () => {
		expect(problems).toEqual([]);
	});
	test("does its business on working days, and none of it after today", () => {
		const free = holidaysAround(today).map((h) => h.day);
		const calendar = makeCalendar([0, 6], free);
		const zone = makeZone("Europe/Berlin");
		for (const file of ["deal_versions.csv", "activities.csv", "answers.csv"] as const) {
			for (const row of rows(file)) {
				const on = zone.dayOf(Date.parse(String(row.fields.at)));
				expect(calendar.isWorking(on), `${file} line ${row.line}`).toBe(true);
				if (row.fields.state !== "planned") expect(on).toBeLessThanOrEqual(today);
			}
		}
	});
	test("leaves blanks where people leave blanks, and uses four currencies", () => {
		const versions = rows("deal_versions.csv");
		expect(versions.some((v) => v.fields.amount === null)).toBe(true);
		expect(versions.some((v) => v.fields.close_date === null)).toBe(true);
		expect(new Set(versions.map((v) => v.fields.currency))).toEqual(new Set(["EUR", "GBP", "CHF", "SEK"]));
	});
	test("writes to example domains only", () => {
		for (const file of ["people.csv", "contacts.csv"] as const) for (const row of rows(file)) expect(row.fields.email).toMatch(/\.example$/);
	});
	test("tells its six stories", () => {
		const ids = rows("deals.csv").map((row) => row.fields.id);
		for (const id of ["story-rack", "story-deck", "story-proofer", "story-plant", "story-mixers", "story-service"]) expect(ids).toContain(id);
	});
});
