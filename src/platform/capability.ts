import type { Command, Lookup, Query } from "./command";
import type { Context } from "./context";
import type { ApiRoute } from "./http/apiRoute";
import type { Right } from "./rights";
import type { TableFile } from "./tableFile";
import type { Viewpoint } from "./viewpoint";

/** A place in the rail. */
export interface RailEntry {
	readonly path: string;
	readonly label: string;
	/** goes there after a G */
	readonly key: string;
	/** What stands beside the word: how many, and of what. Counted here, once, for every screen. */
	readonly count?: { readonly label: string; readonly value: (context: Context, viewpoint: Viewpoint) => number | Promise<number> };
	/** further places within it that a search finds, for those who have the right */
	readonly places?: readonly { readonly path: string; readonly label: string; readonly right?: Right }[];
}

/** A key that works on some screens. */
export interface KeyEntry {
	readonly key: string;
	readonly label: string;
	/** a screen's path: `/deals` alone, or with `/` at its end all below it; null: everywhere */
	readonly on: string | null;
	/** how the help calls that place */
	readonly where: string;
}

/** Work the program does by itself every night, by one process of all. */
export interface NightlyWork {
	readonly name: string;
	/** Doing it twice changes nothing. Gives what was done, for the log. */
	readonly run: () => Promise<readonly string[]>;
}

/** Work the program does every minute, and soon after each write where it wants to; by one process of all, one at a time. */
export interface OftenWork {
	readonly name: string;
	readonly afterWrites: boolean;
	/** Doing it twice does nothing twice. Gives what was done, for the log. */
	readonly run: () => Promise<readonly string[]>;
}

// biome-ignore lint/suspicious/noExplicitAny: lists hold commands and queries of every input and answer
type Some = any;

/** All that the rest of the program may know of a capability. */
export interface Capability {
	readonly key: string;
	readonly commands: readonly Command<string, Some, Some>[];
	readonly lookups: readonly Lookup<string, Some, Some>[];
	readonly queries: readonly Query<string, Some, Some>[];
	/** the API */
	readonly api: readonly ApiRoute[];
	readonly rail?: RailEntry;
	readonly keys: readonly KeyEntry[];
	readonly nightly: readonly NightlyWork[];
	readonly often: readonly OftenWork[];
	/** tables that can be taken away */
	readonly files: readonly TableFile[];
}

type Given = Pick<Capability, "key"> & Partial<Capability>;
type Filled<C extends Given> = Omit<Capability, keyof C> & C;

/**
 * Makes a capability of what it has; what it leaves out it has none of. Anything else is an error of types: a list under a name
 * that nobody reads would be lost without a word.
 *
 * @example export const evidence = capability({ key: "evidence", commands: [answerQuestion], queries: [readEvidence] });
 */
export function capability<const C extends Given>(given: C & Record<Exclude<keyof C, keyof Capability>, never>): Filled<C> {
	const none = { commands: [], lookups: [], queries: [], api: [], keys: [], nightly: [], often: [], files: [] };
	return { ...none, ...given } as unknown as Filled<C>;
}
