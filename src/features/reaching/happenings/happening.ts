import type { DealSeen } from "@/core/dealSeen";
import type { Survey } from "@/core/survey";
import { type Day, parseDay } from "@/core/time/day";
import { shortDay } from "@/core/time/words";
import type { OrganisationState } from "@/data/organisation/state";
import type { taskChanges, tasks } from "@/data/schema";
import type { Context } from "@/platform/context";
import { accountName, dealName } from "@/platform/names";
import type { Part } from "../server/letters";

export type Mail = "now" | "digest" | "never";

/** What is looked at for happenings: the organisation now, the day that was looked at last, and what was written since. */
export interface Scan {
	/** the organisation and its time, for nobody in particular */
	readonly context: Omit<Context, "actor">;
	readonly today: Day;
	readonly before: Day;
	/** all deals as they are today, and as they were on the day before */
	readonly is: Survey;
	readonly was: Survey;
	/** tasks that were given since, and their changes */
	readonly given: readonly (typeof tasks.$inferSelect)[];
	readonly changes: readonly (typeof taskChanges.$inferSelect & { readonly task: typeof tasks.$inferSelect })[];
	readonly notes: readonly {
		readonly id: string;
		readonly dealId: string;
		readonly byId: string | null;
		readonly body: string;
		readonly mentions: readonly string[];
	}[];
	/** open tasks whose due day or reminder has come since the day before */
	readonly open: readonly (typeof tasks.$inferSelect)[];
	/** somebody of the other side has written or spoken on a deal since an instant */
	readonly answeredSince: (dealId: string, since: Date) => boolean;
	/** a context for somebody, to read what they would see */
	readonly as: (personId: string) => Context | null;
	/** who wishes to hear of a kind, each with what of it was chosen */
	readonly wishers: (kind: string) => readonly { readonly personId: string; readonly of: string }[];
	/** What somebody wishes of a kind, and of what was chosen of it, if they have said so. */
	readonly wishOf: (personId: string, kind: string, of?: string) => { readonly onScreen: boolean; readonly mail: string } | null;
}

/** What a happening is about, as it was then: names, ISO days, amounts in minor units. It is stored, and worded when it is read. */
export type Facts = Readonly<Record<string, string | number | boolean | null>>;

/** Something that happened, for one person, or for all who reach the deal and wish to hear of it. */
export interface Found<F extends Facts = Facts> {
	readonly personId?: string;
	/** which of those chosen it is of, where the kind has such */
	readonly of?: string;
	readonly key: string;
	readonly dealId?: string | null;
	readonly taskId?: string | null;
	readonly facts: F;
	readonly path: string;
	/** by whom: what one person did at one time is told in one mail */
	readonly byId?: string | null;
	/** what its mail says besides */
	readonly parts?: readonly Part[];
}

/** A kind of happening. `find` looks for those since the last time; what was found before is told once by its key. */
export interface Happening<F extends Facts = Facts> {
	readonly kind: string;
	/** after *tell me when* */
	readonly label: string;
	/** how it is told where nobody has wished otherwise */
	readonly usual: { readonly onScreen: boolean; readonly mail: Mail };
	/** what is told of one, out of its facts alone */
	readonly say: (facts: F) => string;
	/** the subject of one mail that tells of several of them, all by one person; without it: how many, and the kind's words */
	readonly many?: (found: readonly Found[], by: string | null) => string;
	/** what has to be chosen for it */
	readonly of?: "view";
	readonly find: (scan: Scan) => readonly Found<F>[] | Promise<readonly Found<F>[]>;
}

/**
 * Makes a kind of happening.
 *
 * @example export const reachesAct = happening({ kind: "act", label: "a deal reaches act", usual: { onScreen: false, mail: "never" }, say: ({ deal }) => `${deal}: now at act`, find: (scan) => … });
 */
export const happening = <F extends Facts>(given: Happening<F>): Happening => given as unknown as Happening;

export const NEVER = { onScreen: false, mail: "never" } as const;

/** Deals that were there on both days, each as it was then and is now. */
export function* pairs(scan: Scan): Generator<[was: DealSeen, is: DealSeen]> {
	for (const is of scan.is.deals) {
		const was = is && scan.was.deals[is.deal];
		if (is && was) yield [was, is];
	}
}

export { dealPath, taskPath } from "@/platform/paths";

/** `Rack ovens, Saltmarsh Patisserie`; null for what is about no deal. */
export function dealAndAccount(organisation: OrganisationState, dealId: string | null): string | null {
	const deal = organisation.dealIndex.get(dealId ?? "");
	return deal === undefined ? null : `${dealName(organisation, deal)}, ${accountName(organisation, deal)}`;
}

/** ` (Rack ovens, Saltmarsh Patisserie)`; nothing for what is about no deal. */
export const inBrackets = (text: string | null): string => (text ? ` (${text})` : "");
/** `18 Nov`, of an ISO day. */
export const dayWords = (iso: string): string => shortDay(parseDay(iso) ?? 0);
