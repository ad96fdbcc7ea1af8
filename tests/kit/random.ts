/** Numbers that look random and are the same for the same seed (a linear congruence, Numerical Recipes). */
export function random(seed: number) {
	let state = seed >>> 0;
	const below = (n: number): number => {
		state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
		return Math.floor((state / 2 ** 32) * n);
	};
	return { below, of: <T>(list: readonly T[]): T => list[below(list.length)] as T };
}
