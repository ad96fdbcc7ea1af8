import type { Ledger, LedgerBlock } from "../company";
import { STAGE_KINDS } from "../history/stage";
import { NO_DAY } from "../time/day";
import type { Period } from "../time/period";
import { ownerIn, type Scope } from "./scope";
import type { Standing } from "./step";

const KINDS = [undefined, ...STAGE_KINDS] as const;
const CLOSES = ["none", "before", "within", "after"] as const satisfies readonly Standing["close"][];

/** All ways in which a deal can stand, numbered by their place, so that the step of each is looked up once and not deal by deal. */
export const STANDINGS: readonly Standing[] = KINDS.flatMap((kind) =>
	[false, true].flatMap((ours) => CLOSES.map((close): Standing => ({ exists: kind !== undefined, kind, ours, close }))),
);

/** Gives the number of how a deal stands at a version, by its block and row; at −1 it isn’t there. */
export function standingIn({ rules }: Pick<Ledger, "rules">, period: Period, scope: Scope): (block: LedgerBlock, row: number) => number {
	const kinds = rules.stages.map(({ kind }) => 2 * CLOSES.length * KINDS.indexOf(kind));
	return (block, row) => {
		const kind = row < 0 ? undefined : kinds[block.stage[row] as number];
		if (kind === undefined) return 0;
		const close = block.close[row] as number;
		const lies = close === NO_DAY ? 0 : close < period.start ? 1 : close > period.end ? 3 : 2;
		return kind + (ownerIn(scope, block.owner[row] as number) ? CLOSES.length : 0) + lies;
	};
}
