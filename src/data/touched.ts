import type pg from "pg";

/** Whose deals and tasks a write touched, by person; null where it may matter to everybody. */
export type Touched = readonly string[] | null;

/** A write to more deals is told to everybody: finding out whose they are would cost as much as reading them. */
const MOST = 500;

/**
 * Whose a write was, from the change log: who owns its deals or ever did, and who has tasks of them or had. Null where it
 * touched anything else as well, a deal or task of nobody, or what can't be told any more.
 */
export async function touchedBy(client: pg.Client, revision: number): Promise<Touched> {
	const { rows } = await client.query(TOUCHED, [revision, MOST + 1]);
	const { wide, lines, known, people } = rows[0] as { wide: boolean; lines: number; known: number; people: string[] | null };
	if (wide || !lines || lines > MOST || known < lines || !people || people.includes("")) return null;
	return people;
}

const TOUCHED = `
	with changed as (select deal_id from change_log where revision = $1 limit $2),
	versions as (select deal_id, coalesce(owner_id, '') as person from deal_versions where deal_id in (select deal_id from changed)),
	given as (select id, coalesce(assignee_id, '') as person from tasks where deal_id in (select deal_id from changed)),
	earlier as (select coalesce(c.before->>'assigneeId', '') as person from task_changes c join given t on t.id = c.task_id)
	select (select bool_or(deal_id is null) from changed) as wide,
		(select count(distinct deal_id)::int from changed) as lines,
		(select count(distinct deal_id)::int from versions) as known,
		(select array_agg(distinct person) from (select person from versions union select person from given union select person from earlier) one) as people`;
