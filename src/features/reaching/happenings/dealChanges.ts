import type { DealSeen } from "@/core/inspect";
import { formatDay } from "@/core/time/day";
import { dealName } from "@/platform/names";
import { dealPath, type Found, pairs, type Scan } from "./happening";

/** What happened to deals between the two days: the words for each that `tell` says something of. Told once a day. */
export function dealsThat(scan: Scan, tell: (was: DealSeen, is: DealSeen) => string | null): Found[] {
	const { organisation } = scan.context;
	const found: Found[] = [];
	for (const [was, is] of pairs(scan)) {
		const words = tell(was, is);
		const id = organisation.deals[is.deal]?.id;
		if (words === null || !id) continue;
		found.push({ key: `${id} ${formatDay(scan.today)}`, dealId: id, words: `${dealName(organisation, is.deal)}: ${words}`, path: dealPath(id) });
	}
	return found;
}

/** What lit between the two days of a flag. */
export const lit = (code: string, was: DealSeen, is: DealSeen) =>
	was.flags.some((flag) => flag.code === code) ? null : (is.flags.find((flag) => flag.code === code) ?? null);
