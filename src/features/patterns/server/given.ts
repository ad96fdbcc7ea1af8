import type { AttentionSettings } from "@/core/attention/settings";
import type { Scope } from "@/core/bridge/scope";
import { type Day, parseDay } from "@/core/time/day";
import type { Period } from "@/core/time/period";
import type { Context } from "@/platform/context";
import { type PeopleIds, scopeOfIds } from "./scopes";

/** What is asked of the past, as plain data: it goes to a thread, and names what was found. Days are ISO days. */
export interface Given {
	readonly day: string;
	readonly scope: PeopleIds;
	readonly from?: string;
	readonly to?: string;
	readonly against?: string;
	readonly show?: string;
	readonly quarters?: number;
	readonly lead?: number;
	readonly by?: string | null;
	readonly open?: string;
	readonly dealId?: string;
	/** all of its deals, for whoever can take them */
	readonly whole?: boolean;
	readonly attention?: AttentionSettings;
	/** the weights of severities are those of the past */
	readonly byLift?: boolean;
}

/** One kind of finding: a file, and a line in their list. */
export interface Finding {
	/** about how many steps it takes, for whoever watches */
	readonly steps: (given: Given) => number;
	/** Works it out; `told` is called after each step with how many are done. What is answered is plain data. */
	readonly compute: (context: Context, given: Given, told?: (done: number) => void) => Promise<unknown> | unknown;
}
/** Makes a finding. */
export const finding = (given: Finding): Finding => given;

/** A day of what a finding is given; 0 for none. */
export const dayOf = (iso: string | undefined): Day => parseDay(iso ?? "") ?? 0;
/** The period of what a finding is given. */
export const periodOf = ({ from, to }: Given): Period => ({ start: dayOf(from), end: dayOf(to) });
/** The people of what a finding is given; null is everyone. */
export const scopeOf = (context: Context, { scope }: Given): Scope => scopeOfIds(context.organisation, scope);

/** Counts steps for whoever watches. */
export function counting(told?: (done: number) => void): () => void {
	let done = 0;
	return () => told?.(++done);
}
