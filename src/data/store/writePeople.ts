import { sql } from "drizzle-orm";
import type { Row } from "../../formats/bundle/model";
import type { Tx } from "../db";
import type { StoredRecord } from "./record";

/**
 * Somebody made by hand has their address as id, until a bundle names them: then they get its id, and keep
 * their password, sessions and keys.
 */
export async function takeOverPeople(tx: Tx, records: readonly StoredRecord[]): Promise<void> {
	await tx.execute(sql`
		update people p set id = n.id
		from json_to_recordset(${JSON.stringify(records)}::json) as n(id text, email text)
		where lower(n.email) = lower(p.email) and p.id = lower(p.email) and n.id <> p.id`);
}

/** Writes the teams that people name, each under the one it says. Answers how many are new. */
export async function writeTeams(tx: Tx, people: readonly Row[]): Promise<number> {
	const teams = new Map<string, string | null>();
	for (const { fields } of people) {
		const team = fields.team as string | null;
		const parent = fields.parent_team as string | null;
		if (!team) continue;
		if (parent && !teams.has(parent)) teams.set(parent, null);
		teams.set(team, parent ?? teams.get(team) ?? null);
	}
	if (!teams.size) return 0;
	const records = [...teams].map(([name, parent]) => ({ name, parent }));
	const result = await tx.execute(sql`
		insert into teams as t (name, parent)
		select name, parent from json_populate_recordset(null::teams, ${JSON.stringify(records)}::json)
		on conflict (name) do update set parent = excluded.parent
		where excluded.parent is not null and t.parent is distinct from excluded.parent`);
	return result.rowCount ?? 0;
}
