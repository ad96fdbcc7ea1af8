/** A share, k of n, with its Wilson interval at 95%; of fewer than `LEAST` nothing is said. */
export interface Share {
	readonly k: number;
	readonly n: number;
	readonly share: number | null;
	readonly low: number | null;
	readonly high: number | null;
}

const Z = 1.959964;
/** of so few nothing is said */
export const LEAST = 5;

/**
 * The share of k in n with the Wilson score interval at 95%.
 *
 * @example shareOf(7, 10).share // 0.7
 */
export function shareOf(k: number, n: number): Share {
	return n < LEAST ? { k, n, share: null, low: null, high: null } : { k, n, share: k / n, ...intervalOf(k, n) };
}

function intervalOf(k: number, n: number): { readonly low: number; readonly high: number } {
	const centre = (k + Z ** 2 / 2) / (n + Z ** 2);
	const half = (Z / (n + Z ** 2)) * Math.sqrt((k * (n - k)) / n + Z ** 2 / 4);
	return { low: Math.max(0, centre - half), high: Math.min(1, centre + half) };
}

/** A share of rows of which several may be of one deal, and how many deals they are. */
export interface ShareOfDeals extends Share {
	readonly deals: number;
}

/**
 * Counts rows of which several may be of one deal: those of a deal say less than as many deals would, so that the interval
 * takes n and k divided by the design effect d = max(1, Σ over deals (Σ of its rows’ (y − p))² / (n p (1 − p))), the number
 * of rows a deal where p is 0 or 1.
 */
export class DealTally {
	private readonly byDeal = new Map<number, { k: number; n: number }>();
	private k = 0;
	private n = 0;

	add(deal: number, hit: boolean): void {
		const own = this.byDeal.get(deal) ?? { k: 0, n: 0 };
		this.byDeal.set(deal, own);
		own.n++;
		this.n++;
		if (!hit) return;
		own.k++;
		this.k++;
	}

	get share(): ShareOfDeals {
		const { k, n } = this;
		const deals = this.byDeal.size;
		if (n < LEAST) return { k, n, share: null, low: null, high: null, deals };
		const p = k / n;
		let scatter = 0;
		for (const own of this.byDeal.values()) scatter += (own.k - own.n * p) ** 2;
		const d = p === 0 || p === 1 ? n / deals : Math.max(1, scatter / (n * p * (1 - p)));
		return { k, n, share: p, ...intervalOf(k / d, n / d), deals };
	}
}

/**
 * The share of such rows.
 *
 * @example shareOfRows([{ deal: 1, hit: true }, { deal: 1, hit: true }]).deals // 1
 */
export function shareOfRows(rows: Iterable<{ readonly deal: number; readonly hit: boolean }>): ShareOfDeals {
	const tally = new DealTally();
	for (const { deal, hit } of rows) tally.add(deal, hit);
	return tally.share;
}
