import type { Share } from "./wilson";

/** from so many on a share is worded in per cent */
const IN_PERCENT = 20;

/**
 * A share in words: of few as it was counted, of more in whole per cent; a dash where nothing is said.
 *
 * @example shareWords({ k: 3, n: 5, share: 0.6 }) // "3 of 5"
 * @example shareWords({ k: 12, n: 20, share: 0.6 }) // "60%"
 * @example shareWords({ k: 2, n: 3, share: null }) // "–"
 */
export function shareWords({ k, n, share }: Pick<Share, "k" | "n" | "share">): string {
	if (share === null) return "–";
	return n < IN_PERCENT ? `${k} of ${n}` : `${Math.round(100 * share)}%`;
}
