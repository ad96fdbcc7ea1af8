import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { loadDemo } from "@/cli/demoCompany";
import { byAttention } from "@/core/attention/attention";
import { formatDay } from "@/core/time/day";
import { LOST_BY } from "@/features/accounts/server/lostDeals";
import { ACCOUNT_ORDERS, type AccountRow, readAccounts } from "@/features/accounts/server/readAccounts";
import { listDeals } from "@/features/deals/server/listDeals";
import { readEvidence } from "@/features/evidence/server/readEvidence";
import { tasksFile } from "@/features/tasks/server/files";
import { listTasks, readTasks } from "@/features/tasks/server/readTasks";
import { TASK_VIEWS } from "@/features/tasks/server/taskGroups";
import { readTaskPage, type TaskPage } from "@/features/tasks/server/taskPage";
import type { TaskRow } from "@/features/tasks/server/taskRows";
import { unpackRows } from "@/formats/rowPack";
import { reachOf } from "@/platform/reach";
import { resolveViewpoint } from "@/platform/viewpoint";
import { day } from "../kit/company";
import { as, freshDatabase } from "../kit/database";
import { allDeals } from "../kit/deals";
import { faultOf } from "../kit/fault";

// Long lists come a part at a time; what is said of the whole stays that of the whole.
let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("lists");
	await loadDemo(day("2026-11-24"), () => undefined);
});
afterAll(() => database.drop());

const ask = async (person: string, seen?: string) => {
	const context = await as(person);
	return [context, resolveViewpoint(context, { seen })] as const;
};
const CASES: [person: string, seen: string][] = [
	["helena", "2026-11-24"],
	["ruth", "2026-10-01"],
	["ines", "2026-11-24"],
];

const rowsOfPage = ({ rows, rest }: TaskPage): TaskRow[] => [...rows, ...unpackRows<TaskRow>(JSON.parse(rest))];

describe("tasks a view at a time", () => {
	for (const [person, seen] of CASES) {
		test(`are those of the whole list in its order, counted: ${person} on ${seen}`, async () => {
			const [context, viewpoint] = await ask(person, seen);
			const { scope } = viewpoint.whose;
			const all = await readTasks(context, scope, day(seen));
			expect(all.length).toBeGreaterThan(5);
			for (const view of TASK_VIEWS) {
				const belongs = (row: TaskRow) => (view === "late" ? row.overdue : row.state === view);
				const whole = await readTaskPage(context, scope, day(seen), { view, limit: 10_000 });
				const rows = rowsOfPage(whole);
				expect(new Map(rows.map((row) => [row.id, row]))).toEqual(new Map(all.filter(belongs).map((row) => [row.id, row])));
				expect(whole.counts[view]).toBe(rows.length);
				const taken = await tasksFile.read(context, viewpoint, (name) => (name === "state" ? view : undefined));
				expect(taken.rows.map(([title]) => title)).toEqual(rows.map(({ title }) => title));
				const key = (row: TaskRow) => (view === "open" || view === "late" ? (row.dueOn ?? "9999") : row.doneAt) ?? "";
				const keys = rows.map(key);
				expect(keys).toEqual(view === "open" || view === "late" ? [...keys].sort() : [...keys].sort().reverse());
				const part = await readTaskPage(context, scope, day(seen), { view, limit: 3 });
				expect({ ...part, rows: rowsOfPage(part), rest: "" }).toEqual({ ...whole, rows: rows.slice(0, 3), rest: "" });
			}
		});
	}
});

describe("evidence a part at a time", () => {
	test("counts its questions over all deals, and begins with those known worst", async () => {
		const [context, viewpoint] = await ask("helena");
		const whole = readEvidence(context, viewpoint);
		const part = readEvidence(context, viewpoint, 7);
		expect(part).toEqual({ ...whole, deals: whole.deals.slice(0, 7) });
		expect(whole.count).toBe(whole.deals.length);
		const below = whole.deals.map((deal) => deal.expected - deal.strength);
		expect(below).toEqual([...below].sort((a, b) => b - a));
	});
});

describe("accounts", () => {
	for (const [person, seen] of CASES) {
		test(`are parted by the bands, found by words, and come a part at a time in every order: ${person} on ${seen}`, async () => {
			const [context, viewpoint] = await ask(person, seen);
			const whole = await readAccounts(context, viewpoint);
			expect(whole.count).toBe(whole.total);
			expect(whole.accounts).toHaveLength(whole.total);
			expect(whole.bands.reduce((sum, band) => sum + band.count, 0)).toBe(whole.total);
			const found: string[] = [];
			for (const [band, { count }] of whole.bands.entries()) {
				const view = await readAccounts(context, viewpoint, { band });
				expect([view.count, view.total, view.bands]).toEqual([count, whole.total, whole.bands]);
				expect(view.accounts.every((row) => row.band === band)).toBe(true);
				found.push(...view.accounts.map((row) => row.id));
			}
			expect(found.sort()).toEqual(whole.accounts.map((row) => row.id).sort());
			const of = (order: (typeof ACCOUNT_ORDERS)[number], row: AccountRow) =>
				({ silent: row.lastTouch ?? "", recent: row.lastTouch ?? "", open: row.openAmount, bought: row.thisYear, name: row.name })[order];
			for (const order of ACCOUNT_ORDERS) {
				const { accounts } = await readAccounts(context, viewpoint, { order });
				expect(accounts).toHaveLength(whole.total);
				const up = order === "silent" || order === "name";
				for (const [i, row] of accounts.slice(1).entries()) {
					const [a, b] = [of(order, accounts[i] as AccountRow), of(order, row)];
					expect(up ? a <= b : a >= b).toBe(true);
				}
				expect((await readAccounts(context, viewpoint, { order, limit: 4 })).accounts).toEqual(accounts.slice(0, 4));
			}
			const [first] = whole.accounts;
			expect((await readAccounts(context, viewpoint, { text: ` ${first?.name.toUpperCase()} ` })).accounts.map((row) => row.id)).toContain(first?.id);
			expect((await readAccounts(context, viewpoint, { account: first?.id ?? "" })).accounts).toEqual([first]);
			expect((await readAccounts(context, viewpoint, { band: 99 })).band).toBe(null);
		});
	}
	test("show as the last contact none that came after the seen day", async () => {
		const [context, viewpoint] = await ask("helena", "2026-10-01");
		const { accounts } = await readAccounts(context, viewpoint);
		expect(accounts.every((row) => (row.lastTouch ?? "") <= formatDay(viewpoint.seen.day))).toBe(true);
	});
	test("lost deals are grouped without a rest, and a group shows its own", async () => {
		const [context, viewpoint] = await ask("helena");
		for (const lostBy of LOST_BY) {
			const { lost } = await readAccounts(context, viewpoint, { lostBy });
			expect(lost.groups.reduce((sum, group) => sum + group.count, 0)).toBe(lost.count);
			expect(lost.groups.length).toBeGreaterThan(2);
			for (const group of lost.groups) {
				const { lost: own } = await readAccounts(context, viewpoint, { lostBy, lost: group.name });
				expect([own.count, own.groups]).toEqual([group.count, lost.groups]);
				expect(own.deals.every((deal) => deal[lostBy] === group.name)).toBe(true);
			}
		}
	});
});

describe("deals and tasks of the API, a page at a time", () => {
	/** All pages of a list, one after another. */
	async function paged<T>(
		read: (cursor: string | undefined) => Promise<{ items: T[]; next: string | null }> | { items: T[]; next: string | null },
	): Promise<T[]> {
		const all: T[] = [];
		for (let cursor: string | undefined; ; ) {
			const { items, next } = await read(cursor);
			all.push(...items);
			if (next === null) return all;
			cursor = next;
		}
	}
	for (const [person, seen] of CASES) {
		test(`are those of the whole list, each once, in its order: ${person} on ${seen}`, async () => {
			const context = await as(person);
			for (const filter of [
				{ as_of: seen },
				{ as_of: seen, status: "open" as const },
				{ as_of: seen, status: "lost" as const, from: "2026-01-01", to: "2026-12-31" },
			]) {
				const whole = allDeals(context, filter);
				expect(whole.map((deal) => ({ ...deal.attention, amountBase: deal.amountBase, id: deal.id }))).toEqual(
					whole.map((deal) => ({ ...deal.attention, amountBase: deal.amountBase, id: deal.id })).sort(byAttention),
				);
				for (const limit of [Math.max(1, Math.floor(whole.length / 3)), whole.length || 1, whole.length + 1])
					expect(await paged((cursor) => listDeals(context, filter, { cursor, limit }))).toEqual(whole);
			}
			const scope = reachOf(context.organisation, context.actor);
			const tasks = await readTasks(context, scope, context.now.day);
			expect(await paged((cursor) => listTasks(context, scope, { cursor, limit: 40 }))).toEqual(tasks);
			const done = tasks.filter(({ state }) => state === "done").map(({ id }) => id);
			expect((await paged((cursor) => listTasks(context, scope, { state: "done", cursor, limit: 25 }))).map(({ id }) => id)).toEqual(done);
		});
	}
	test("a cursor of a deal that no longer fits is refused in words", async () => {
		const context = await as("helena");
		const { next } = listDeals(context, { status: "lost" }, { limit: 3 });
		const fault = await faultOf(() => listDeals(context, { status: "open" }, { cursor: next as string, limit: 3 }));
		expect([fault.status, fault.detail]).toEqual([400, "This cursor is no longer valid: the list has changed. Start again without it."]);
	});
});
