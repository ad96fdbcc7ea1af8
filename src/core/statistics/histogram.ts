const FIRST = 512;

/** How often each whole number occurs: numbers come and go one at a time, and quantiles are read without sorting. */
export class Histogram {
	private counts = new Int32Array(FIRST);
	/** the number that stands first in `counts` */
	private from = 0;
	private total = 0;

	get size(): number {
		return this.total;
	}

	/** Takes a number in, or (−1) out again. It must be whole. */
	add(value: number, times: 1 | -1): void {
		if (value < this.from || value >= this.from + this.counts.length) this.reach(value);
		const at = value - this.from;
		this.counts[at] = (this.counts[at] as number) + times;
		this.total += times;
	}

	/**
	 * The p-quantile (0 to 1), by linear interpolation between order statistics at h = (n − 1) p: the same as `percentile`
	 * of the numbers. NaN where there are none.
	 */
	quantile(p: number): number {
		if (!this.total) return Number.NaN;
		const h = (this.total - 1) * p;
		const low = Math.floor(h);
		let at = 0;
		let seen = this.counts[0] as number;
		while (seen <= low) seen += this.counts[++at] as number;
		const lower = at + this.from;
		// The next one in order is the same number as long as it isn't used up.
		if (seen > low + 1 || low + 1 >= this.total) return lower;
		let next = at + 1;
		while (!this.counts[next]) next++;
		return lower + (h - low) * (next + this.from - lower);
	}

	private reach(value: number): void {
		const from = Math.min(this.from, value);
		const to = Math.max(this.from + this.counts.length, value + 1);
		const counts = new Int32Array(Math.max(to - from, 2 * this.counts.length));
		counts.set(this.counts, this.from - from);
		this.counts = counts;
		this.from = from;
	}
}
