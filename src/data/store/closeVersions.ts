import { sql } from "drizzle-orm";
import type { Tx } from "../db";
import { isOneOf } from "../queries/isOneOf";
import { dealVersions } from "../schema";

/**
 * Sets each version's end to the beginning of the next one of its deal, and leaves the last one open.
 * In two statements, so that no deal ever has two current versions.
 */
export async function closeVersions(tx: Tx, dealIds: readonly string[]): Promise<void> {
	const ours = isOneOf(dealVersions.dealId, dealIds);
	// Rows written a moment ago are in no statistics: taken for few, they would be looked through once for each of them.
	await tx.execute(sql`select set_config('enable_nestloop', 'off', true)`);
	for (const last of [false, true]) {
		// Both sides name the deals: what is put together by hashing would otherwise read the versions of all deals there are.
		await tx.execute(sql`
			update deal_versions set valid_to = n.next
			from (select id, lead(valid_from) over (partition by deal_id order by valid_from) as next from deal_versions where ${ours}) n
			where ${ours} and deal_versions.id = n.id and deal_versions.valid_to is distinct from n.next and (n.next is null) = ${last}`);
	}
	await tx.execute(sql`select set_config('enable_nestloop', 'on', true)`);
}
