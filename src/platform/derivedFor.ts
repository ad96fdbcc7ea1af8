import { derive } from "@/core/derive";
import { accountsKey } from "@/data/organisation/former";
import type { Context } from "./context";
import type { Viewpoint } from "./viewpoint";

/** Names what a viewpoint sees: whose deals, due when, seen when, against when; the same for all who see the same. */
export function viewpointKey({ whose, due, seen, against }: Viewpoint): string {
	const scope = whose.scope && [...whose.scope].sort((a, b) => a - b).join(",");
	return [scope, due.key, due.period?.start, due.period?.end, seen.day, seen.label, against.day].join(" ");
}

/** Some of each of the people who work at the same time. */
export const ANSWERS_KEPT = 400;

/** What a query answers to a viewpoint, kept with the company and the names of accounts it was made of; two people who see the same deals share it. */
export const derivedFor = <T>({ organisation }: Context, viewpoint: Viewpoint, what: string, make: () => T): T =>
	derive(organisation.company, "answers", `${what} ${viewpointKey(viewpoint)} ${accountsKey(organisation)}`, make, ANSWERS_KEPT);
