import type { Company, DealBlock } from "./company";
import { derive, keyOf } from "./derive";
import { asOf, blockIndex } from "./history/columns";
import { inspect } from "./inspect";
import { flagNormsOn } from "./norms";
import type { Day } from "./time/day";

/** A deal at the end of a day: the codes of the flags that fire, and how it was closed, where it was. */
export interface FlagsOnDay {
	readonly codes: ReadonlySet<string>;
	readonly closed: "won" | "lost" | null;
}

const NOTHING: FlagsOnDay = { codes: new Set(), closed: null };
/** of the deals of a block together */
const KEPT = 1000;

/**
 * The flags of a deal at the end of a day, by today’s rules; none where it wasn’t there. Whether a rule fires never depends on other deals’
 * amounts, so the norms of the day needn’t be whole.
 */
export function flagsOnDay(company: Company, deal: number, day: Day): FlagsOnDay {
	if (deal < 0 || asOf(company.history, deal, day) < 0) return NOTHING;
	const norms = flagNormsOn(company, day);
	const block = company.blocks[blockIndex(deal)] as DealBlock;
	return derive(block, "flags on a day", keyOf(deal, day, norms.usual, company.rules, company.people), () => found(company, deal, norms), KEPT);
}

function found(company: Company, deal: number, norms: ReturnType<typeof flagNormsOn>): FlagsOnDay {
	const seen = inspect(company, deal, norms);
	if (!seen) return NOTHING;
	return { codes: new Set(seen.flags.map(({ code }) => code)), closed: seen.status === "open" ? null : seen.status };
}
