import { describe, expect, test } from "vitest";
import { CAST } from "@/fakes/emberwick/cast";
import { generate } from "@/fakes/emberwick/generate";
import { readBundle } from "@/formats/bundle/read";
import { day } from "../kit/company";

// What the demo's people write beside the figures must be believable, row by row.
const { bundle, problems } = readBundle(generate({ today: day("2026-11-24") }), { timeZone: "Europe/Berlin", baseCurrency: "EUR" });
type Fields = Record<string, string | number | boolean | string[] | null>;
const rows = (file: Parameters<typeof bundle.files.get>[0]) => (bundle.files.get(file) ?? []).map((row) => row.fields as Fields);
const versions = rows("deal_versions.csv");
const last = new Map(versions.map((version) => [version.deal_id, version]));
const activities = new Map(rows("activities.csv").map((activity) => [`activity:${activity.id}`, activity]));

describe("the demo’s bundle", () => {
	test("reads without a problem", () => expect(problems).toEqual([]));
	test("says of most pushes why, and of every version of an owned deal by whom", () => {
		let pushes = 0;
		let explained = 0;
		versions.forEach((version, i) => {
			const before = versions[i - 1];
			if (version.owner_id) expect(version.by_id).toBe(version.owner_id);
			if (before?.deal_id !== version.deal_id || !before?.close_date || !version.close_date) return;
			if (String(version.close_date) <= String(before.close_date) || version.stage === "Won" || version.stage === "Lost") return;
			pushes++;
			if (version.reason) explained++;
		});
		expect(pushes).toBeGreaterThan(100);
		expect(explained / pushes).toBeGreaterThan(0.75);
		expect(explained).toBeLessThan(pushes);
	});
	test("shows each shown answer by a conversation on the same deal that lies before it", () => {
		const shown = rows("answers.csv").filter((answer) => answer.level === "shown" && answer.shown_by);
		expect(shown.length).toBeGreaterThan(200);
		for (const answer of shown) {
			const talk = activities.get(String(answer.shown_by));
			expect(talk?.deal_id).toBe(answer.deal_id);
			expect(talk?.direction).toBe("both");
			expect(String(talk?.at) <= String(answer.at)).toBe(true);
		}
	});
	test("has one question that hardly anybody asks", () => {
		const counts = new Map<string, number>();
		for (const answer of rows("answers.csv")) counts.set(String(answer.question_id), (counts.get(String(answer.question_id)) ?? 0) + 1);
		const sorted = [...counts].sort((a, b) => a[1] - b[1]);
		expect(sorted[0]?.[0]).toBe("nothing");
		expect((sorted[0]?.[1] ?? 0) * 5).toBeLessThan(sorted[1]?.[1] ?? 0);
	});
});

describe("notes", () => {
	const notes = rows("notes.csv");
	const people = new Map(CAST.map((member) => [member.id, member]));
	test("are written by the rep’s manager, call on the rep by name, and lie on open deals", () => {
		expect(notes.length).toBeGreaterThan(20);
		for (const note of notes) {
			const [mention] = note.mentions as string[];
			const rep = people.get(mention ?? "");
			expect(note.body).toContain(`@${rep?.name}`);
			expect(people.get(String(note.by_id))).toMatchObject({ role: "manager", team: rep?.team });
			expect(["Won", "Lost"]).not.toContain(last.get(String(note.deal_id))?.stage);
			expect(last.get(String(note.deal_id))?.owner_id).toBe(mention);
		}
	});
	test("call on nobody who has left", () => {
		const left = CAST.filter((member) => member.habit === "left").map((member) => member.id);
		for (const note of notes) for (const id of note.mentions as string[]) expect(left).not.toContain(id);
	});
});

describe("close plans", () => {
	const steps = rows("close_plan_steps.csv");
	test("lead to the close date step by step, with the signature last and not yet done", () => {
		const byDeal = new Map<string, Fields[]>();
		for (const step of steps) byDeal.set(String(step.deal_id), [...(byDeal.get(String(step.deal_id)) ?? []), step]);
		expect(byDeal.size).toBeGreaterThan(20);
		for (const [deal, own] of byDeal) {
			const days = own.map((step) => String(step.due_on));
			expect(days).toEqual([...days].sort());
			expect(days.at(-1)).toBe(String(last.get(deal)?.close_date));
			expect(own.at(-1)?.done_on).toBeNull();
			for (const step of own) if (step.done_on) expect(String(step.done_on) <= "2026-11-24").toBe(true);
		}
	});
	test("have steps of both sides, some of them late", () => {
		expect(new Set(steps.map((step) => step.side))).toEqual(new Set(["ours", "theirs"]));
		expect(steps.some((step) => !step.done_on && String(step.due_on) < "2026-11-24")).toBe(true);
	});
});

describe("quotes", () => {
	test("of won deals were accepted, and no answer lies before its quote or after today", () => {
		for (const quote of rows("quotes.csv")) {
			if (!quote.answered_on) continue;
			expect(String(quote.answered_on) > String(quote.sent_on)).toBe(true);
			expect(String(quote.answered_on) <= "2026-11-24").toBe(true);
			if (last.get(String(quote.deal_id))?.stage === "Won") expect(quote.answer).toBe("accepted");
		}
	});
});
