import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { loadOrganisation, readFrame } from "@/data/organisation/load";
import { pack, unpack, worthPacking } from "@/data/organisation/pack";
import { pruneTail, TAIL_KEPT, touch } from "@/data/store/touch";
import { small } from "../kit/bundle";
import { freshDatabase, importAs } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("pack");
	await importAs(small());
});
afterAll(() => database.drop());

const now = () => currentOrganisation(connection().db);
const unpacked = async () => unpack(connection().db, await readFrame(connection().db));
/** All that is kept in memory, but for functions and for objects that are told apart by them. */
const plain = (value: unknown) =>
	JSON.parse(JSON.stringify(value, (_, one) => (ArrayBuffer.isView(one) ? [...(one as Int32Array)] : one instanceof Map ? [...one] : one)));

describe("a pack", () => {
	test("gives back what every row would", async () => {
		const { db } = connection();
		const organisation = await now();
		expect(await unpacked()).toBeNull();
		expect(await pack(db, organisation)).toBe(true);
		expect(plain(await unpacked())).toEqual(plain(await loadOrganisation(db, organisation.revision)));
		expect(await pack(db, organisation)).toBe(false);
	});
	test("isn't read when it is of another form, or when what deals are read by has changed", async () => {
		const { db } = connection();
		await db.execute(sql`update packs set form = 'of old'`);
		expect(await unpacked()).toBeNull();
		expect(await pack(db, await now())).toBe(true);
		await db.execute(sql`update organisation set time_zone = 'America/New_York'`);
		expect(await unpacked()).toBeNull();
		await db.execute(sql`update organisation set time_zone = 'Europe/Berlin'`);
		expect(await unpacked()).not.toBeNull();
	});
	test("is made of a large organisation that was read row by row, or has gone far since its pack", async () => {
		const organisation = await now();
		const large = { ...organisation, deals: Array.from({ length: 5000 }, () => organisation.deals[0]) } as typeof organisation;
		expect(worthPacking(organisation, null)).toBe(false);
		expect(worthPacking(large, null)).toBe(true);
		expect(worthPacking(large, large)).toBe(false);
		expect(worthPacking({ ...large, revision: large.revision + 2000 }, large)).toBe(true);
	});
});

test("the tail is pruned, and who is further behind reads everything anew", async () => {
	const { db } = connection();
	const before = await now();
	expect(await pruneTail(db)).toBe(0);
	await db.execute(sql`update deals set name = 'Renamed behind the back' where id = 'd1'`);
	await db.execute(sql`update revision set number = number + ${TAIL_KEPT}::bigint`);
	await db.transaction((tx) => touch(tx, []));
	expect(await pruneTail(db)).toBeGreaterThan(0);
	const after = await now();
	expect(after.revision).toBe(before.revision + TAIL_KEPT + 1);
	expect(after.deals.find((deal) => deal.id === "d1")?.name).toBe("Renamed behind the back");
});
