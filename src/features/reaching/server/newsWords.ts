import { HAPPENINGS } from "../happenings";
import type { Facts } from "../happenings/happening";

/** What is told of a happening, out of what was stored of it. News from before facts were stored have their words in `told`. */
export function newsWords(kind: string, facts: Facts): string {
	if (typeof facts.told === "string") return facts.told;
	return HAPPENINGS.find((one) => one.kind === kind)?.say(facts) ?? "";
}
