import { afterAll, beforeAll, expect, test } from "vitest";
import { connection } from "@/data/db";
import { demandLimit, forgetTries } from "@/platform/limit";
import { rateLimit } from "@/platform/rateLimit";
import { freshDatabase } from "../kit/database";
import { freshProcess } from "../kit/freshProcess";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("limits");
});
afterAll(() => database.drop());

/** How often something is let through before it isn’t. */
async function letThrough(work: () => Promise<void>): Promise<number> {
	for (let n = 0; ; n++)
		try {
			await work();
		} catch (error) {
			expect(error).toMatchObject({ status: 429 });
			return n;
		}
}

test("tries are counted by all processes together, each by what it is of and by whom", async () => {
	expect(await letThrough(() => demandLimit("own password", "rae"))).toBe(10);
	await connection().close();
	await freshProcess();
	expect(await letThrough(() => demandLimit("own password", "rae"))).toBe(0);
	expect(await letThrough(() => demandLimit("own password", "gil"))).toBe(10);
	expect(await letThrough(() => demandLimit("mail secrets", "rae"))).toBe(20);
	await forgetTries("own password", "rae");
	expect(await letThrough(() => demandLimit("own password", "rae"))).toBe(10);
	expect(await letThrough(() => rateLimit("rae"))).toBe(600);
});

test("a database that can’t be asked isn’t told as too many tries", async () => {
	await freshProcess();
	const { pool } = connection();
	const query = pool.query;
	pool.query = (() => Promise.reject(Object.assign(new Error("the connection is refused"), { code: "ECONNREFUSED" }))) as never;
	try {
		await expect(rateLimit("rae")).rejects.toThrow("the connection is refused");
		await expect(demandLimit("calendar", "x")).rejects.toThrow("the connection is refused");
	} finally {
		pool.query = query;
	}
});
