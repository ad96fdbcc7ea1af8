import { eq } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { activities } from "@/data/schema";
import { generate } from "@/fakes/emberwick/generate";
import { readAccountPage } from "@/features/accounts/server/accountPage";
import { readActivity } from "@/features/accounts/server/activity";
import { listAccounts } from "@/features/accounts/server/listAccounts";
import { readActivities } from "@/features/accounts/server/readActivities";
import { readTerritories } from "@/features/accounts/server/readTerritories";
import { readTurns } from "@/features/accounts/server/readTurns";
import { settleActivities } from "@/features/accounts/server/settle";
import { listTurns } from "@/features/accounts/server/turns";
import { endNoteAtAccount, logAtAccount, noteAtAccount, unlogAtAccount } from "@/features/accounts/server/writeAtAccount";
import { accountHeadline } from "@/features/accounts/table/words";
import { readPeriod } from "@/features/period/server/readPeriod";
import { resolveViewpoint } from "@/platform/viewpoint";
import { day } from "../kit/company";
import { as, freshDatabase, importAs } from "../kit/database";
import { faultOf } from "../kit/fault";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("account_page");
	await importAs(generate({ today: day("2026-11-24"), deals: 240 }));
});
afterAll(() => database.drop());

const STORY = "acc-001";
const page = async (who: string, id = STORY, filter = {}, query = {}) => {
	const context = await as(who);
	return readAccountPage(context, resolveViewpoint(context, query), id, { limit: 500, ...filter });
};

describe("an account’s page", () => {
	test("says what the list and the API say of it, and each year’s orders add up to the year", async () => {
		const helena = await as("helena");
		for (const one of (await listAccounts(helena, {})).items.slice(0, 40)) {
			const view = await page("helena", one.id);
			expect(view).toMatchObject({ lastContact: one.lastContact, atRisk: one.atRisk, bought: one.bought });
			expect(view.deals.filter(({ status }) => status === "open")).toHaveLength(one.open.count);
			for (const { amount, orders, products } of view.years) {
				expect(orders.reduce((sum, order) => sum + order.amount, 0)).toBe(amount);
				expect(products.reduce((sum, product) => sum + product.amount, 0)).toBe(amount);
			}
		}
	});
	test("tells the story of Saltmarsh: who waits, who knows whom under whom they report to, and the deal with its flags", async () => {
		const view = await page("ruth");
		expect(view.waiting).toMatchObject({ side: "they", since: "2026-11-18" });
		expect(accountHeadline(view)).toMatch(/^They wait for us since 18 Nov/);
		expect(view.people.map(({ name, depth, reportsTo }) => [name, depth, reportsTo])).toContainEqual(["Leonie Devereux", 1, "Aiko Quiroga"]);
		expect(view.ways[0]).toMatchObject({ contact: "Aiko Quiroga", person: "Ines Valdoro", word: "close" });
		const open = view.deals.find(({ id }) => id === "story-rack");
		expect(open).toMatchObject({ status: "open", level: "act" });
		expect(open?.flags.length).toBeGreaterThan(3);
		expect(view.log.map(({ day: on }) => on)).toEqual(
			view.log
				.map(({ day: on }) => on)
				.sort()
				.reverse(),
		);
		expect(view.log.some(({ kind }) => kind === "order")).toBe(true);
		expect(view.log.some(({ subject }) => subject.startsWith("Deal made"))).toBe(true);
	});
	test("narrows its log by kind, person, deal and words, and counts all of it once", async () => {
		const whole = (await page("ruth")).log;
		const kinds = [...new Set(whole.map(({ kind }) => kind))];
		let sum = 0;
		for (const kind of kinds) {
			const { log } = await page("ruth", STORY, { kind });
			expect(log.every((entry) => entry.kind === kind)).toBe(true);
			sum += log.length;
		}
		expect(sum).toBe(whole.length);
		const first = await page("ruth", STORY, { limit: 3 });
		expect([first.log, first.more]).toEqual([whole.slice(0, 3), true]);
		expect((await page("ruth", STORY, { q: "site two" })).log.length).toBeGreaterThan(0);
		expect((await page("ruth", STORY, { q: "no such words" })).log).toEqual([]);
		expect((await page("ruth", STORY, { deal: "none" })).log.every(({ deal }) => deal === null)).toBe(true);
	});
	test("reads as it stood on an earlier day", async () => {
		const before = await page("ruth", STORY, {}, { seen: "2026-10-10" });
		expect(before.log.every(({ day: on, planned }) => planned || on <= "2026-10-10")).toBe(true);
		expect(before.lastContact && before.lastContact <= "2026-10-10").toBe(true);
		expect(before.mayWrite).toBe(false);
	});
	test("is there for those alone who reach it, and a rep reads nothing of others’ deals there", async () => {
		const all = await page("helena");
		const owners = new Set(all.deals.map(({ owner }) => owner));
		expect(owners.size).toBeGreaterThan(0);
		expect(await faultOf(async () => page("celine"))).toMatchObject({ status: 404 });
		expect(await faultOf(async () => page("helena", "nowhere"))).toMatchObject({ status: 404 });
	});
});

describe("what is written at an account", () => {
	test("is logged beside its deals, moves the last contact and whose turn it is, and is taken back by the person who logged it", async () => {
		const helena = await as("helena");
		const silent = (await listAccounts(helena, { band: "over_91" })).items.find(({ ownerId, open }) => ownerId && open.count === 0);
		if (!silent?.ownerId) throw new Error("nobody is silent");
		const rep = silent.ownerId;
		const { id } = await logAtAccount(await as(rep), { accountId: silent.id, kind: "email", direction: "out", subject: "How do the ovens do?" });
		const after = (await listAccounts(await as("helena"), {})).items.find((one) => one.id === silent.id);
		expect(after).toMatchObject({ lastContact: "2026-11-24", band: { from: 0 } });
		expect((await listTurns(await as(rep), {})).items).toContainEqual(expect.objectContaining({ accountId: silent.id, side: "we", since: "2026-11-24" }));
		expect((await page(rep, silent.id)).log[0]).toMatchObject({ subject: "How do the ovens do?", kind: "email", deal: null });
		expect(await faultOf(async () => unlogAtAccount(await as("helena"), { id }))).toMatchObject({ status: 403 });
		await unlogAtAccount(await as(rep), { id });
		expect((await listAccounts(await as("helena"), {})).items.find((one) => one.id === silent.id)?.lastContact).toBe(silent.lastContact);
		expect(await faultOf(async () => unlogAtAccount(await as(rep), { id }))).toMatchObject({ status: 404 });
	});
	test("is refused of a kind there is none of, with strangers, and where it isn’t reached", async () => {
		const ines = await as("ines");
		const log = (given: object) => faultOf(async () => logAtAccount(ines, { accountId: STORY, kind: "call", direction: "both", subject: "Hello", ...given }));
		expect(await log({ kind: "dance" })).toMatchObject({ status: 422 });
		expect(await log({ contactIds: ["nobody"] })).toMatchObject({ status: 404 });
		expect(await faultOf(async () => logAtAccount(await as("celine"), { accountId: STORY, kind: "call", direction: "both", subject: "Hello" }))).toMatchObject({
			status: 404,
		});
	});
	test("stays on top until it is taken down, of which earlier days know nothing", async () => {
		const { id } = await noteAtAccount(await as("ines"), { accountId: STORY, body: "Don’t call before ten." });
		expect((await page("ruth")).notes).toMatchObject([{ body: "Don’t call before ten.", by: "Ines Valdoro", on: "2026-11-24" }]);
		expect((await page("ruth", STORY, {}, { seen: "2026-11-20" })).notes).toEqual([]);
		await endNoteAtAccount(await as("ruth"), { id });
		expect((await page("ruth")).notes).toEqual([]);
		await endNoteAtAccount(await as("ruth"), { id, ended: false });
		expect((await page("ruth")).notes).toHaveLength(1);
		expect(await faultOf(async () => endNoteAtAccount(await as("celine"), { id }))).toMatchObject({ status: 404 });
	});
});

describe("screens of turns and activities", () => {
	test("whose turn it is says what the API says, in its order, and counts each once", async () => {
		const ruth = await as("ruth");
		const view = await readTurns(ruth, resolveViewpoint(ruth, {}), 1000);
		const { items } = await listTurns(ruth, {});
		expect(view.rows.map(({ dealId, accountId, since }) => [dealId ?? accountId, since])).toEqual(
			items.map(({ dealId, accountId, since }) => [dealId ?? accountId, since]),
		);
		expect(view.counts.they + view.counts.again + view.counts.later).toBe(view.count);
		expect((await readTurns(ruth, resolveViewpoint(ruth, {}), 2)).rows).toEqual(view.rows.slice(0, 2));
	});
	test("activities say what the API says of the same days, with each contact behind them", async () => {
		const ruth = await as("ruth");
		const view = await readActivities(ruth, resolveViewpoint(ruth, {}), { span: "four", who: null, limit: 5000 });
		const { people } = await readActivity(ruth, { from: view.from, to: view.to, team: "North" });
		expect(view.people.map(({ id, touches, usual }) => [id, touches, usual]).sort()).toEqual(
			people.map(({ id, touches, usual }) => [id, touches, usual]).sort(),
		);
		expect(view.done).toHaveLength(people.reduce((sum, { touches }) => sum + touches, 0));
		const one = await readActivities(ruth, resolveViewpoint(ruth, {}), { span: "four", who: "ines", limit: 5000 });
		expect(one.done).toHaveLength(people.find(({ id }) => id === "ines")?.touches ?? -1);
		for (const span of ["week", "month"] as const) {
			const { from, to } = await readActivities(ruth, resolveViewpoint(ruth, {}), { span, who: null, limit: 5 });
			expect(from <= "2026-11-24" && to >= "2026-11-24").toBe(true);
		}
	});
	test("what was planned and left undone is done or dated again, several at once, and put back", async () => {
		const { db } = connection();
		const planned: string[] = [];
		for (const subject of ["One", "Two"])
			planned.push((await logAtAccount(await as("ines"), { accountId: STORY, kind: "call", direction: "out", subject, day: "2026-11-27" })).id);
		const states = async () =>
			(await Promise.all(planned.map((id) => db.select().from(activities).where(eq(activities.id, id))))).map(([row]) => [
				row?.state,
				row?.at.toISOString().slice(0, 10),
			]);
		const { before } = await settleActivities(await as("ines"), { what: "moved", to: planned.map((id) => ({ id, day: "2026-11-30" })) });
		expect(await states()).toEqual([
			["planned", "2026-11-30"],
			["planned", "2026-11-30"],
		]);
		await settleActivities(await as("ines"), { what: "moved", to: before });
		expect(await states()).toEqual([
			["planned", "2026-11-27"],
			["planned", "2026-11-27"],
		]);
		await settleActivities(await as("ruth"), { what: "done", ids: planned });
		expect((await states()).map(([state]) => state)).toEqual(["done", "done"]);
		expect(await faultOf(async () => settleActivities(await as("ines"), { what: "done", ids: planned }))).toMatchObject({ status: 409 });
		await settleActivities(await as("ines"), { what: "planned", ids: planned });
		expect(await states()).toEqual([
			["planned", "2026-11-27"],
			["planned", "2026-11-27"],
		]);
		// One that isn’t theirs stops all of it.
		expect(await faultOf(async () => settleActivities(await as("celine"), { what: "done", ids: planned }))).toMatchObject({ status: 404 });
		expect((await states()).map(([state]) => state)).toEqual(["planned", "planned"]);
	});
});

test("territories hold each account once, and their figures are those of the list", async () => {
	const helena = await as("helena");
	const view = await readTerritories(helena, resolveViewpoint(helena, {}));
	const { items } = await listAccounts(helena, {});
	expect(view.rows.flatMap(({ list }) => list.map(({ id }) => id)).sort()).toEqual(items.map(({ id }) => id).sort());
	const sum = (of: (row: (typeof view.rows)[number]) => number) => view.rows.reduce((all, row) => all + of(row), 0);
	expect(sum(({ open }) => open)).toBe(items.reduce((all, { open }) => all + open.amount, 0));
	expect(sum(({ atRisk }) => atRisk)).toBe(items.filter(({ atRisk }) => atRisk).length);
	expect(sum(({ silent }) => silent)).toBe(items.filter(({ band }) => band === null || band.to === null).length);
	for (const { accounts, owners, list } of view.rows) {
		expect(list).toHaveLength(accounts);
		expect(owners.reduce((all, { count }) => all + count, 0)).toBe(accounts);
	}
	const { figures } = (await readPeriod(helena, resolveViewpoint(helena, {}))) ?? {};
	expect(sum(({ won }) => won)).toBe(figures?.won.amount);
	expect((await readTerritories(await as("mirela"), resolveViewpoint(await as("mirela"), {}))).owners).toBeNull();
});
