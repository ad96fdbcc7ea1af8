/** A stretch of a vertical line, from its upper to its lower end. */
export interface Stretch {
	readonly top: number;
	readonly bottom: number;
}

export const round = (value: number) => Math.round(value * 10) / 10;

/** A band through its stretches, its edges flowing level at each boundary. */
export function areaPath(xs: readonly number[], stretches: readonly Stretch[]): string {
	const edge = (side: keyof Stretch, order: readonly number[]) =>
		order
			.map((i, n) => {
				const [x, y] = [xs[i] as number, (stretches[i] as Stretch)[side]];
				if (n === 0) return `${round(x)},${round(y)}`;
				const before = order[n - 1] as number;
				return flow(xs[before] as number, (stretches[before] as Stretch)[side], x, y);
			})
			.join("");
	const forth = xs.map((_, i) => i);
	return `M${edge("top", forth)}L${edge("bottom", [...forth].reverse())}Z`;
}

export const flow = (x0: number, y0: number, x1: number, y1: number) => {
	const middle = round((x0 + x1) / 2);
	return `C${middle},${round(y0)} ${middle},${round(y1)} ${round(x1)},${round(y1)}`;
};

export const ribbon = (x0: number, a: Stretch, x1: number, b: Stretch) =>
	`M${round(x0)},${round(a.top)}${flow(x0, a.top, x1, b.top)}L${round(x1)},${round(b.bottom)}${flow(x1, b.bottom, x0, a.bottom)}Z`;

/** From a stretch of a band to the foot of a bar above or below it, from left to right: out along the band, then across. */
export function toBar(x0: number, from: Stretch, left: number, right: number, base: number): string {
	const up = base < from.top;
	const [near, far] = up ? [from.top, from.bottom] : [from.bottom, from.top];
	return `M${round(x0)},${round(near)}Q${round(left)},${round(near)} ${round(left)},${round(base)}L${round(right)},${round(base)}Q${round(right)},${round(far)} ${round(x0)},${round(far)}Z`;
}
