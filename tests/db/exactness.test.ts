import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { bridge } from "@/core/bridge/bridge";
import { trend } from "@/core/bridge/trend";
import { CATEGORIES } from "@/core/history/columns";
import { surveyOn } from "@/core/survey";
import { formatDay } from "@/core/time/day";
import { parsePeriod } from "@/core/time/period";
import { connection } from "@/data/db";
import { Chance } from "@/fakes/emberwick/almanac";
import { small } from "../kit/bundle";
import { day } from "../kit/company";
import { as, freshDatabase, importAs } from "../kit/database";

// What the columns say against the same asked of plain SQL, over made-up histories with the hard cases in them:
// same-day corrections, reopened deals, changed and missing owners, blank dates and amounts, currencies with 0, 2 and 3
// decimals, changes at midnight and across the change to winter time.
const DEALS = 160;
const FIRST = day("2026-09-01");
const chance = new Chance("exactness");
const pick = <T>(...list: T[]): T => chance.pick(list);
/** Instants on a day in Berlin, some of them at its very edges. */
const instant = (on: number) => {
	const offset = on < day("2026-10-25") ? 2 : 1;
	const start = Date.parse(`${formatDay(on)}T00:00:00Z`) - offset * 3_600_000;
	return new Date(start + pick(0, 1, 3_600_000 * 2, 3_600_000 * 9, 3_600_000 * 15, 86_399_999)).toISOString();
};

function history(): Record<string, string[]> {
	const deals = ["id,account_id,name,source,created_at,competitor,outcome_reason,tags"];
	const versions = ["deal_id,at,stage,amount,currency,close_date,owner_id,category,next_step,next_step_date"];
	for (let i = 0; i < DEALS; i++) {
		const id = `x${String(i).padStart(3, "0")}`;
		const days = Array.from({ length: chance.whole(1, 9) }, () => FIRST + chance.whole(0, 84)).sort((a, b) => a - b);
		const seen = new Set<string>();
		deals.push(`${id},a1,Deal ${id},Web,${formatDay(days[0] as number)}T00:00:00Z,,,`);
		for (const on of days) {
			const at = instant(on);
			if (seen.has(at)) continue;
			seen.add(at);
			const currency = pick("EUR", "EUR", "JPY", "KWD", "");
			const places = { EUR: 2, JPY: 0, KWD: 3, "": 2 }[currency] as number;
			const amount = chance.yes(0.1) ? "" : (chance.whole(0, 900_000) / 10 ** places).toFixed(places);
			const close = chance.yes(0.12) ? "" : formatDay(day("2026-09-20") + chance.whole(0, 150));
			const stage = pick("Enquiry", "Survey", "Terms", "Enquiry", "Survey", "Won", "Lost");
			versions.push(`${id},${at},${stage},${amount},${currency},${close},${pick("rep1", "rep2", "gone", "")},${pick(...CATEGORIES, "")},,`);
		}
	}
	return {
		"deals.csv": deals,
		"deal_versions.csv": versions,
		"rates.csv": ["currency,date,rate", "JPY,2026-09-01,0.00613", "JPY,2026-11-02,0.00589", "KWD,2026-09-01,2.8191"],
	};
}

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("exactness");
	expect((await importAs(small(history()))).state).toBe("done");
});
afterAll(() => database.drop());

/** Open deals due in a period as SQL sees them at the end of a day, in base minor units at the rates of another day. */
async function openOn(on: string, ratesOn: string, from: string, to: string, owners: string[] | null) {
	const { rows } = await connection().db.execute(sql`
		with seen as (
			select distinct on (deal_id) * from deal_versions
			where (valid_from at time zone 'Europe/Berlin')::date <= ${on}::date
			order by deal_id, valid_from desc
		)
		select s.deal_id as id, st.name as stage, s.category,
			case when s.amount is null then 0
				when coalesce(s.currency, 'EUR') = 'EUR' then s.amount
				else round(s.amount * r.rate * case s.currency when 'JPY' then 100 when 'KWD' then 0.1 end) end::float8 as amount
		from seen s join stages st on st.name = s.stage
		left join lateral (
			select rate from rates where rates.currency = s.currency
			order by (date <= ${ratesOn}::date) desc, case when date <= ${ratesOn}::date then date end desc, date limit 1
		) r on true
		where st.kind = 'open' and s.close_date between ${from}::date and ${to}::date
		and (${owners === null} or s.owner_id = any(array(select json_array_elements_text(${JSON.stringify(owners ?? [])}::json))))`);
	return rows as { id: string; stage: string; category: string | null; amount: number }[];
}

const sum = (rows: readonly { amount: number }[]) => rows.reduce((total, row) => total + Number(row.amount), 0);
const SPANS = [
	["2026-09-10", "2026-09-24"],
	["2026-10-24", "2026-10-26"],
	["2026-10-01", "2026-11-24"],
	["2026-11-01", "2026-11-02"],
	["2026-08-31", "2026-11-24"],
] as const;

describe("the columns against plain SQL", () => {
	for (const [a, b] of SPANS) {
		for (const owners of [null, ["rep1", "gone"]]) {
			test(`open at both ends, ${a} and ${b}, ${owners ? "of some" : "of all"}`, async () => {
				const { organisation } = await as("ops");
				const period = parsePeriod("2026-Q4", 1);
				if (!period) throw new Error("no such period");
				const scope = owners && new Set(owners.map((id) => organisation.personIndex.get(id) as number));
				const found = bridge(organisation.company, day(a), day(b), period, scope);
				const at = async (on: string) => openOn(on, b, "2026-10-01", "2026-12-31", owners);
				const ids = (list: Iterable<{ deal: number }>) => [...list].map((d) => organisation.deals[d.deal]?.id).sort();
				const [opening, closing] = [await at(a), await at(b)];
				expect(found.opening.amount).toBe(sum(opening));
				expect(found.closing.amount).toBe(sum(closing));
				expect(ids(found.opening.deals)).toEqual(opening.map((row) => row.id).sort());
				expect(ids(found.closing.deals)).toEqual(closing.map((row) => row.id).sort());
				// Deals that stay, at both ends: what grew less what shrank.
				const before = new Map(opening.map((row) => [row.id, Number(row.amount)]));
				const stayed = closing.filter((row) => before.has(row.id));
				const moved = (kind: string) => found.steps.find((step) => step.kind === kind);
				const inBoth = (kind: string) =>
					[...(moved(kind)?.deals ?? [])]
						.filter((d) => stayed.some((row) => row.id === organisation.deals[d.deal]?.id))
						.reduce((total, d) => total + d.amount, 0);
				expect(inBoth("grew") - inBoth("shrank")).toBe(stayed.reduce((total, row) => total + Number(row.amount) - (before.get(row.id) ?? 0), 0));
			});
		}
	}
	test("by stage and by category at each week’s end", async () => {
		const { organisation } = await as("ops");
		const period = parsePeriod("2026-10-01..2027-01-31", 1);
		if (!period) throw new Error("no such period");
		const days = ["2026-10-02", "2026-10-25", "2026-11-06", "2026-11-24"];
		const points = trend(organisation.company, days.map(day), period, null);
		for (const [i, on] of days.entries()) {
			const rows = await openOn(on, "2026-11-24", "2026-10-01", "2027-01-31", null);
			expect(points[i]?.count).toBe(rows.length);
			expect(points[i]?.open).toBe(sum(rows));
			organisation.company.rules.stages.forEach((stage, s) => {
				if (stage.kind === "open") expect(points[i]?.byStage[s]).toBe(sum(rows.filter((row) => row.stage === stage.name)));
			});
			[...CATEGORIES, null].forEach((category, c) => {
				expect(points[i]?.byCategory[c]).toBe(sum(rows.filter((row) => row.category === category)));
			});
		}
	});
	test("trails: pushes and pulls between the last states of days", async () => {
		const { organisation } = await as("ops");
		for (const on of ["2026-10-26", "2026-11-24"]) {
			const { rows } = await connection().db.execute(sql`
				with ends as (
					select distinct on (deal_id, (valid_from at time zone 'Europe/Berlin')::date) deal_id, (valid_from at time zone 'Europe/Berlin')::date as d, close_date
					from deal_versions where (valid_from at time zone 'Europe/Berlin')::date <= ${on}::date
					order by deal_id, (valid_from at time zone 'Europe/Berlin')::date, valid_from desc
				), dated as (
					select deal_id, close_date, lag(close_date) over (partition by deal_id order by d) as before from ends where close_date is not null
				)
				select deal_id as id, count(*) filter (where close_date > before)::int as pushes, count(*) filter (where close_date < before)::int as pulls,
					coalesce(sum(close_date - before) filter (where close_date > before), 0)::int as days
				from dated group by deal_id`);
			const bySql = new Map(rows.map((row) => [String(row.id), [row.pushes, row.pulls, row.days]]));
			for (const seen of surveyOn(organisation.company, day(on)).deals) {
				if (!seen) continue;
				const { pushes, pulls, pushedDays } = seen.trail;
				expect([pushes, pulls, pushedDays]).toEqual(bySql.get(organisation.deals[seen.deal]?.id ?? "") ?? [0, 0, 0]);
			}
		}
	});
	test("overdue, blank and unowned: flags by the columns and by SQL", async () => {
		const { organisation } = await as("ops");
		for (const on of ["2026-10-26", "2026-11-24"]) {
			const { rows } = await connection().db.execute(sql`
				with seen as (
					select distinct on (v.deal_id) v.*, st.kind, p.active_to from deal_versions v join stages st on st.name = v.stage left join people p on p.id = v.owner_id
					where (valid_from at time zone 'Europe/Berlin')::date <= ${on}::date order by v.deal_id, valid_from desc
				)
				select deal_id as id, close_date < ${on}::date as overdue, amount is null or close_date is null as blank, owner_id is null or active_to < ${on}::date as unowned
				from seen where kind = 'open'`);
			const lit = new Map(
				surveyOn(organisation.company, day(on)).deals.flatMap((seen) =>
					seen?.status === "open" ? [[organisation.deals[seen.deal]?.id, seen.flags.map((flag) => flag.code)] as const] : [],
				),
			);
			expect([...lit.keys()].sort()).toEqual(rows.map((row) => row.id).sort());
			for (const row of rows) {
				const codes = lit.get(String(row.id)) ?? [];
				expect(codes.includes("overdue")).toBe(row.overdue === true);
				expect(codes.includes("unowned")).toBe(row.unowned === true);
				// No contact is on any of these deals, so all of them have a blank.
				expect(codes.includes("blank-fields")).toBe(true);
			}
		}
	});
});
