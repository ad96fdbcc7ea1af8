import { afterAll, beforeAll, expect, test } from "vitest";
import { connection } from "@/data/db";
import { isOneOf } from "@/data/queries/isOneOf";
import { activities, changeLog, deals } from "@/data/schema";
import { small } from "../kit/bundle";
import { freshDatabase, refill } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("long_lists");
	await refill(small());
});
afterAll(() => database.drop());

const MANY = Array.from({ length: 70_000 }, (_, i) => `none ${i}`);

test("a list may be longer than a statement has parameters, of words or of numbers, or be empty", async () => {
	const { db } = connection();
	const found = async (list: string[]) => (await db.select({ id: deals.id }).from(deals).where(isOneOf(deals.id, list))).map(({ id }) => id);
	expect(await found([...MANY, "d1"])).toEqual(["d1"]);
	expect(await found([])).toEqual([]);
	expect(await found(["d1", "d1", "it's {odd},\"quoted\\"])).toEqual(["d1"]);
	const numbers = (list: number[]) => db.select({ id: changeLog.id }).from(changeLog).where(isOneOf(changeLog.id, list));
	expect(await numbers([...Array(70_000).keys()].map((i) => i + 10_000_000))).toEqual([]);
	const [first] = await db.select({ id: changeLog.id }).from(changeLog).limit(1);
	expect(await numbers([first?.id ?? 0])).toHaveLength(1);
	expect(await db.select().from(activities).where(isOneOf(activities.messageId, MANY))).toEqual([]);
});
