import { sql } from "drizzle-orm";
import type { Tx } from "../db";

/**
 * Sets each version's end to the beginning of the next one of its deal, and leaves the last one open.
 * In two statements, so that no deal ever has two current versions.
 */
export async function closeVersions(tx: Tx, dealIds: readonly string[]): Promise<void> {
	const ids = JSON.stringify(dealIds);
	// Rows written a moment ago are in no statistics: taken for few, they would be looked through once for each of them.
	await tx.execute(sql`select set_config('enable_nestloop', 'off', true)`);
	for (const last of [false, true]) {
		await tx.execute(sql`
			update deal_versions v set valid_to = n.next
			from (
				select id, lead(valid_from) over (partition by deal_id order by valid_from) as next
				from deal_versions
				where deal_id in (select json_array_elements_text(${ids}::json))
			) n
			where v.id = n.id and v.valid_to is distinct from n.next and (n.next is null) = ${last}`);
	}
	await tx.execute(sql`select set_config('enable_nestloop', 'on', true)`);
}
