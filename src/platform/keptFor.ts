import type { Company } from "@/core/company";
import type { Context } from "./context";
import type { Viewpoint } from "./viewpoint";

const answers = new WeakMap<Company, Map<string, unknown>>();
const MOST = 24;

/**
 * What a use case answers to a viewpoint, kept with the company it was made of, so that it never outlives a write.
 * Two people who see the same deals share it: the key holds whose deals they are, not who asks.
 */
export function keptFor<T>(context: Context, viewpoint: Viewpoint, what: string, make: () => T): T {
	const { company } = context.organisation;
	const known = answers.get(company) ?? new Map<string, unknown>();
	answers.set(company, known);
	const { whose, due, seen, against } = viewpoint;
	const scope = whose.scope && [...whose.scope].sort((a, b) => a - b).join(",");
	const key = [what, scope, due.key, due.period?.start, due.period?.end, seen.day, seen.words, against.day].join(" ");
	if (known.has(key)) return known.get(key) as T;
	const made = make();
	if (known.size >= MOST) known.delete(known.keys().next().value as string);
	known.set(key, made);
	return made;
}
