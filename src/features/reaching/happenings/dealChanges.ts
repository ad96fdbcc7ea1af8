import type { DealSeen } from "@/core/dealSeen";
import { formatDay } from "@/core/time/day";
import { dealName } from "@/platform/names";
import { dealPath, type Facts, type Found, pairs, type Scan } from "./happening";

/** What happened to deals between the two days: the facts of each that `tell` finds some of, with its name. Told once a day. */
export function dealsThat<F extends Facts>(scan: Scan, tell: (was: DealSeen, is: DealSeen) => F | null): Found<F & { deal: string }>[] {
	const { organisation } = scan.context;
	const found: Found<F & { deal: string }>[] = [];
	for (const [was, is] of pairs(scan)) {
		const facts = tell(was, is);
		const id = organisation.deals[is.deal]?.id;
		if (facts === null || !id) continue;
		found.push({ key: `${id} ${formatDay(scan.today)}`, dealId: id, facts: { ...facts, deal: dealName(organisation, is.deal) }, path: dealPath(id) });
	}
	return found;
}

/** What lit between the two days of a flag. */
export const lit = (code: string, was: DealSeen, is: DealSeen) =>
	was.flags.some((flag) => flag.code === code) ? null : (is.flags.find((flag) => flag.code === code) ?? null);

/** Why a flag is lit, as it was said then; null where it isn’t. */
export const reasonOf = (flag: { readonly reason: string } | null): { reason: string } | null => flag && { reason: flag.reason };
