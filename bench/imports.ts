import pg from "pg";
import { zipFiles } from "../tests/kit/zip";

/** new deals of each import: as many as a large company’s week brings */
const DEALS = 683;

const cell = (value: unknown) => (value === null || value === undefined ? "" : `"${String(value).replaceAll('"', '""')}"`);
const file = (head: string, rows: readonly (readonly unknown[])[]) =>
	new TextEncoder().encode(`${[head, ...rows.map((row) => row.map(cell).join(","))].join("\n")}\n`);

/** Makes bundles to import: people, stages and rules as they are, and new open deals of theirs, others in each. */
export async function bundlesFor(url: string, today: string): Promise<(nth: number) => Uint8Array> {
	const client = new pg.Client({ connectionString: url });
	await client.connect();
	const { rows: people } = await client.query(
		"select p.id, p.name, p.email, p.role, p.team, t.parent, p.active_from::text, p.active_to::text from people p left join teams t on t.name = p.team where p.role = 'rep' and p.active_to is null",
	);
	const { rows: stages } = await client.query("select position, name, kind, probability::text, usual_days from stages order by position");
	const { rows: accounts } = await client.query(
		"select id, name, kind, industry, territory, owner_id from accounts where owner_id in (select id from people where role = 'rep' and active_to is null) order by id limit 1",
	);
	const { rows: rules } = await client.query(
		'select time_zone as "timeZone", base_currency as "baseCurrency", fiscal_start_month as "fiscalYearStartMonth", weekend from organisation',
	);
	await client.end();
	const settings = new TextEncoder().encode(JSON.stringify({ ...rules[0], today }));
	const open = stages.find(({ kind }) => kind === "open");
	return (nth) => {
		const ids = Array.from({ length: DEALS }, (_, i) => `bench-${process.pid}-${nth}-${i}`);
		const at = `${today}T07:00:00Z`;
		return zipFiles(
			new Map([
				["settings.json", settings],
				[
					"people.csv",
					file(
						"id,name,email,role,team,parent_team,active_from,active_to",
						people.map((one) => Object.values(one)),
					),
				],
				[
					"stages.csv",
					file(
						"position,name,kind,probability,usual_days",
						stages.map((one) => Object.values(one)),
					),
				],
				[
					"accounts.csv",
					file(
						"id,name,kind,industry,territory,owner_id",
						accounts.map((one) => Object.values(one)),
					),
				],
				[
					"deals.csv",
					file(
						"id,account_id,name,source,created_at,competitor,outcome_reason,tags",
						ids.map((id) => [id, accounts[0]?.id, "Oven", "Web", at, null, null, null]),
					),
				],
				[
					"deal_versions.csv",
					file(
						"deal_id,at,stage,amount,currency,close_date,owner_id,category,next_step,next_step_date",
						ids.map((id, i) => [id, at, open?.name, 1000 + i, "EUR", `${today.slice(0, 4)}-12-18`, people[i % people.length]?.id, "pipeline", null, null]),
					),
				],
			]),
		);
	};
}
