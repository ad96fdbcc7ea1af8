import { sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { outbox } from "@/data/schema";
import { recordChange } from "@/data/store/changeLog";
import { closePeriod } from "@/features/closes/server/closePeriod";
import { lookForNews } from "@/features/reaching/server/detectHappenings";
import { readNews } from "@/features/reaching/server/wishes";
import { small } from "../kit/bundle";
import { as, freshDatabase, refill } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("period_turns");
});
beforeEach(async () => {
	await refill(small());
	await lookForNews();
});
afterAll(() => database.drop());

const told = async (who: string) => (await readNews(await as(who))).items.map(({ words }) => words);
const mails = () => connection().db.select().from(outbox).orderBy(outbox.id);

describe("a period that turns", () => {
	const dayIs = async (today: string) => {
		await connection().db.execute(sql`update organisation set today = ${today}`);
		await connection().db.transaction((tx) => recordChange(tx, "everything"));
		await lookForNews();
	};
	const of = (list: readonly string[], word: string) => list.filter((words) => words.includes(word));
	test("is told to those who lead on its first working day, once, with what is carried over and how it can be closed", async () => {
		await dayIs("2026-12-31");
		expect(of(await told("boss"), "ended with")).toEqual([]);
		await dayIs("2027-01-04");
		await lookForNews();
		expect(of(await told("boss"), "ended with")).toEqual([
			expect.stringMatching(/^Oct–Dec 2026 ended with €\S+ won; \d deals of €\S+ carried over without a decision$/),
		]);
		expect(of(await told("rep1"), "ended with")).toEqual([]);
	});
	test("and is closed is told with how it ended to all who lead those it tells of, but to nobody else", async () => {
		await dayIs("2027-01-04");
		await closePeriod(await as("north"), { whose: "team:North", from: "2026-10-01", to: "2026-12-31", note: "Late." });
		await lookForNews();
		await lookForNews();
		expect(of(await told("boss"), "closed by")).toEqual([expect.stringMatching(/^Oct–Dec 2026, North team: closed by Nora Thistle\. €/)]);
		for (const who of ["north", "rep1", "rep2"]) expect(of(await told(who), "closed by"), who).toEqual([]);
		const mail = (await mails()).find(({ subject }) => subject.includes("closed by"));
		expect(mail?.text).toMatch(/Where the open deals went[\s\S]*By rep[\s\S]*In their own words\n- Late\./);
	});
});
