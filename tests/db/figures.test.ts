import { sql } from "drizzle-orm";
import { afterAll, beforeAll, expect, test } from "vitest";
import { connection } from "@/data/db";
import { generate } from "@/fakes/emberwick/generate";
import { readBridge } from "@/features/changes/server/bridgeJson";
import { readChanges } from "@/features/changes/server/readChanges";
import { resolveViewpoint } from "@/platform/viewpoint";
import { day } from "../kit/company";
import { as, freshDatabase, importAs } from "../kit/database";
import { allDeals, dueRows } from "../kit/deals";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("figures");
	await importAs(generate({ today: day("2026-11-24"), deals: 200 }));
});
afterAll(() => database.drop());

/** Open deals at the end of a day, by plain SQL over the versions. */
async function openBySql(iso: string, team?: string) {
	const result = await connection().db.execute(sql`
		with seen as (
			select distinct on (v.deal_id) v.* from deal_versions v
			where (v.valid_from at time zone 'Europe/Berlin')::date <= ${iso}::date
			order by v.deal_id, v.valid_from desc)
		select seen.deal_id as id, seen.stage, seen.amount::float8 as amount, seen.currency, seen.close_date::text as close_date, seen.owner_id
		from seen join stages s on s.name = seen.stage and s.kind = 'open'
		left join people p on p.id = seen.owner_id
		where ${team ?? null}::text is null or p.team = ${team ?? null}
		order by 1`);
	return result.rows;
}

test("any past day’s deals are those that plain SQL finds", async () => {
	for (const iso of ["2026-11-24", "2026-10-31", "2026-03-29", "2025-12-31"]) {
		const deals = allDeals(await as("helena"), { as_of: iso, status: "open" })
			.map((d) => ({ id: d.id, stage: d.stage, amount: d.amount, currency: d.currency, close_date: d.closeDate, owner_id: d.ownerId }))
			.sort((a, b) => (a.id < b.id ? -1 : 1));
		expect(deals).toEqual(await openBySql(iso));
	}
});

test("the bridge’s ends are what SQL sums on both days, and its steps lead from one to the other", async () => {
	const bridge = readBridge(await as("helena"), { a: "2026-10-30", b: "2026-11-24", from: "2026-10-01", to: "2026-12-31", team: "North" });
	const inPeriod = async (iso: string) =>
		(await openBySql(iso, "North")).filter((r) => r.close_date !== null && String(r.close_date) >= "2026-10-01" && String(r.close_date) <= "2026-12-31");
	expect(bridge.openingCount).toBe((await inPeriod("2026-10-30")).length);
	expect(bridge.closingCount).toBe((await inPeriod("2026-11-24")).length);
	const out = ["shrank", "pushed-out", "moved-earlier", "handed-out", "removed", "won", "lost"];
	expect(bridge.steps.reduce((sum, s) => sum + (out.includes(s.kind) ? -s.amount : s.amount), bridge.opening)).toBe(bridge.closing);
	for (const step of bridge.steps) expect(step.deals.reduce((sum, d) => sum + d.amount, 0)).toBe(step.amount);
});

test("screens and API give the same figures", async () => {
	const context = await as("ruth");
	const viewpoint = resolveViewpoint(context, { due: "2026-Q4", against: "2026-11-09" });
	const api = allDeals(context, { from: "2026-10-01", to: "2026-12-31", status: "open" });
	const rows = dueRows(context, viewpoint);
	expect(rows.map((r) => [r.id, r.score, r.amount, r.flags.map((f) => f.code)])).toEqual(
		api.map((d) => [d.id, d.attention.score, d.amountBase, d.flags.map((f) => f.code)]),
	);
	const changes = readChanges(context, viewpoint);
	const bridge = readBridge(context, { a: "2026-11-09", from: "2026-10-01", to: "2026-12-31" });
	expect(changes?.steps.map((s) => s.amount)).toEqual([bridge.opening, ...bridge.steps.map((s) => s.amount), bridge.closing]);
	expect(changes?.parts.reduce((sum, part) => sum + part.net, 0)).toBe(bridge.closing - bridge.opening);
});

test("a filter gives a part of the whole, and a day to come is refused", async () => {
	const context = await as("helena");
	const lit = allDeals(context, { flag: "overdue" });
	expect(lit.length).toBeGreaterThan(0);
	for (const deal of lit) expect(deal.closeDate && deal.closeDate < "2026-11-24").toBe(true);
	const teams = ["North", "South", "Partners"].flatMap((team) => allDeals(context, { team, status: "open" }));
	const unowned = allDeals(context, { status: "open" }).filter((d) => d.ownerId === null);
	expect(teams.length + unowned.length).toBe(allDeals(context, { status: "open" }).length);
	expect(() => allDeals(context, { as_of: "2026-11-25" })).toThrow(/in the future/);
});
