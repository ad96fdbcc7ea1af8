import { LRUCache } from "lru-cache";
import type { DealAttributes, OrganisationState } from "@/data/organisation/state";
import { processSingleton } from "@/data/processSingleton";
import { type DealRecords, readRecords } from "@/data/queries/dealRecords";

const MOST = 1000;
const kept = processSingleton("deal records", () => new LRUCache<DealAttributes, Promise<DealRecords>>({ max: MOST }));

/**
 * What is written about a deal, read once until a write touches the deal: every write of its records does, and a touched
 * deal is another object. Only those looked at last are kept.
 */
export function recordsOf(organisation: OrganisationState, deal: number): Promise<DealRecords> {
	const attributes = organisation.deals[deal] as DealAttributes;
	const known = kept.get(attributes);
	if (known) return known;
	const records = readRecords(attributes.id, attributes.accountId);
	kept.set(attributes, records);
	records.catch(() => kept.delete(attributes));
	return records;
}
