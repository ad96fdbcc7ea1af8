import { sql } from "drizzle-orm";
import { afterAll, afterEach, beforeAll, describe, expect, test } from "vitest";
import { connect, connection } from "@/data/db";
import { revision } from "@/data/schema";
import { readingFrom, standby } from "@/data/standby";
import { readRunning } from "@/platform/running";
import { freshDatabase } from "../kit/database";

// Two databases stand in for a primary and its standby: the other one’s revision is as it is set.
let database: Awaited<ReturnType<typeof freshDatabase>>;
let other: { readonly url: string; revision(number: number): Promise<unknown>; drop(): Promise<unknown> };
beforeAll(async () => {
	database = await freshDatabase("standby");
	await connection().db.execute(sql`create schema replayed; create table replayed.revision (number bigint); insert into replayed.revision values (0)`);
	const url = new URL(database.url);
	url.searchParams.set("options", "-c search_path=replayed");
	const beside = connect(url.href, 1, false);
	other = {
		url: url.href,
		revision: (number) => beside.db.execute(sql`update replayed.revision set number = ${number}`),
		drop: () => beside.close(),
	};
});
afterEach(() => {
	delete process.env.PORCH_LAMP_STANDBY;
	standby();
});
afterAll(async () => {
	await other.drop();
	await database.drop();
});

describe("what is long is read", () => {
	test("from the primary where no standby is named", async () => {
		expect(await readingFrom(0)).toBe(connection().db);
	});
	test("from a standby that has replayed the revision, and from the primary until it has", async () => {
		process.env.PORCH_LAMP_STANDBY = other.url;
		await other.revision(7);
		expect(await readingFrom(8)).toBe(connection().db);
		expect(await readingFrom(7)).toBe(standby()?.db);
		expect(await readingFrom(3)).toBe(standby()?.db);
		expect(await readingFrom(3)).not.toBe(connection().db);
	});
	test("from the primary where the standby is gone", async () => {
		process.env.PORCH_LAMP_STANDBY = "postgres://nobody:x@127.0.0.1:9/none";
		expect(await readingFrom(0)).toBe(connection().db);
	});
	test("and how far the standby is behind is told with how the program runs", async () => {
		const told = async () => (await readRunning(connection().db)).standby;
		expect(await told()).toBeNull();
		process.env.PORCH_LAMP_STANDBY = other.url;
		const written = 7;
		await connection()
			.db.insert(revision)
			.values({ number: written })
			.onConflictDoUpdate({ target: revision.id, set: { number: written } });
		await other.revision(written - 2);
		expect(await told()).toEqual({ behind: 2 });
		await other.revision(written);
		expect(await told()).toEqual({ behind: 0 });
		process.env.PORCH_LAMP_STANDBY = "postgres://nobody:x@127.0.0.1:9/none";
		expect(await told()).toEqual({ behind: null });
	});
});
