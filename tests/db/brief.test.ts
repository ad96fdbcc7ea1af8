import { eq } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { loadDemo } from "@/cli/demoCompany";
import { connection } from "@/data/db";
import { accounts, activities, answers, closePlanSteps, contacts, dealContacts, deals, notes, orders, tasks } from "@/data/schema";
import { readBrief } from "@/features/rounds/server/readBrief";
import { readHeld } from "@/features/rounds/server/readHeld";
import { readMinutes } from "@/features/rounds/server/readMinutes";
import { readRounds } from "@/features/rounds/server/readRounds";
import { readSheet } from "@/features/sheet/server/readSheet";
import { day } from "../kit/company";
import { as, freshDatabase } from "../kit/database";

// A brief holds nothing that isn't stored; what the demo's rounds say adds up.
let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("brief");
	await loadDemo(day("2026-11-24"), () => undefined);
});
afterAll(() => database.drop());

const STORIES = ["rack", "deck", "proofer", "plant", "mixers", "service", "tunnel", "room", "won"].map((name) => `story-${name}`);

/** All that is written of a deal by somebody, in one text. */
async function written(id: string): Promise<string> {
	const { db } = connection();
	const [deal] = await db.select().from(deals).where(eq(deals.id, id));
	const account = deal?.accountId ?? "";
	const parts = await Promise.all([
		db.select().from(notes).where(eq(notes.dealId, id)),
		db.select().from(activities).where(eq(activities.dealId, id)),
		db.select().from(answers).where(eq(answers.dealId, id)),
		db.select().from(tasks).where(eq(tasks.dealId, id)),
		db.select().from(closePlanSteps).where(eq(closePlanSteps.dealId, id)),
		db.select({ name: contacts.name }).from(dealContacts).innerJoin(contacts, eq(contacts.id, dealContacts.contactId)).where(eq(dealContacts.dealId, id)),
		db.select().from(orders).where(eq(orders.accountId, account)),
		db.select().from(deals).where(eq(deals.accountId, account)),
		db.select().from(accounts).where(eq(accounts.id, account)),
	]);
	return parts.map((rows) => rows.flatMap((row) => Object.values(row).map((value) => (typeof value === "string" ? value : ""))).join("\n")).join("\n");
}

describe("the brief of each story", () => {
	for (const id of STORIES)
		test(`${id} quotes what is stored, names whom it has, and gives each line its source`, async () => {
			const brief = await readBrief(await as("helena"), id);
			const text = await written(id);
			const lines = brief.parts.flatMap(({ heading, lines: own }) => own.map((line) => ({ heading, ...line })));
			expect(lines.length).toBeGreaterThan(5);
			for (const { words, source, heading } of lines) {
				expect(source).not.toBe("");
				for (const [, quote] of words.matchAll(/“([^”]+)”/g)) if (heading !== "Next questions and steps") expect(text, words).toContain(quote);
				if (heading === "People" && !words.startsWith("Nobody")) expect(text).toContain(words.split(/[,;(]/)[0]?.trim());
				if (heading === "Agreed" && words.includes(" promised: ")) expect(text).toContain(words.split(" promised: ")[1]?.split(", by ")[0]);
			}
			const sheet = await readSheet(await as("helena"), id, "", "");
			expect(brief.headline).toBe(sheet.headline);
			expect(brief.text.split("\n").filter((line) => line.startsWith("- "))).toHaveLength(lines.length);
		});
});

describe("the demo’s rounds", () => {
	test("were held each week by Ruth, lie in her team’s sight, and each adds up", async () => {
		const { rounds } = await readRounds(await as("ruth"));
		expect(rounds).toHaveLength(3);
		expect(new Set(rounds.map(({ on }) => new Date(on).getUTCDay()))).toEqual(new Set([2]));
		expect((await readRounds(await as("tomas"))).rounds).toEqual([]);
		for (const { id, deals: count, called } of rounds) {
			const minutes = await readMinutes(await as("ruth"), id);
			expect([minutes.deals.length, minutes.uncalled]).toEqual([count, count - called]);
			expect(minutes.after?.byWord).toBe(minutes.before?.byWord);
			expect(minutes.after?.shaky).toBe(minutes.deals.filter(({ call }) => call?.call === "shaky").reduce((sum, { amount }) => sum + amount, 0));
		}
		const held = await readHeld(await as("ruth"));
		expect(held.managers).toHaveLength(1);
		expect(held.calls).toBe(rounds.reduce((sum, { called }) => sum + called, 0));
	});
});
