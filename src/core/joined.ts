/**
 * Lists one after another as one: what `flat` gives, many times faster for long ones.
 *
 * @example joined([[1, 2], [], [3]]) // [1, 2, 3]
 */
export function joined<T>(parts: readonly (readonly T[])[]): T[] {
	const all: T[] = new Array(parts.reduce((sum, { length }) => sum + length, 0));
	let at = 0;
	for (const part of parts) for (let i = 0; i < part.length; i++) all[at++] = part[i] as T;
	return all;
}
