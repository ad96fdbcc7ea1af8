import type { Chance } from "./almanac";
import { DETAILS } from "./words";

/** Gives one of some sentences each time, that wasn't said of this deal yet; with a detail where it was. */
export function sentences(chance: Chance, product: string): (subjects: readonly string[]) => string {
	const said = new Set<string>();
	return (subjects) => {
		for (let tries = 0; ; tries++) {
			const plain = chance.pick(subjects).replace("{p}", product.toLowerCase());
			const sentence = tries === 0 && chance.yes(0.3) ? plain : `${plain}, ${chance.pick(DETAILS)}`;
			if (said.has(sentence) && tries < 40) continue;
			said.add(sentence);
			return sentence;
		}
	};
}
