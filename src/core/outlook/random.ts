/**
 * Random numbers from 0 to below 1 that are the same for the same seed: mulberry32 over a hash of the text (FNV-1a).
 * Both are in the public domain.
 */
export function seeded(text: string): () => number {
	let state = 2_166_136_261;
	for (let i = 0; i < text.length; i++) state = Math.imul(state ^ text.charCodeAt(i), 16_777_619);
	return () => {
		state = (state + 0x6d2b79f5) | 0;
		let t = Math.imul(state ^ (state >>> 15), 1 | state);
		t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
		return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
	};
}
