import type { CallKind } from "../call";
import { gone } from "./gone";
import { holds } from "./holds";
import { moves } from "./moves";
import { shaky } from "./shaky";

/** The calls, in the order of their keys. A new one is one line here. */
const KINDS = [holds, shaky, moves, gone] as const;

export type Call = (typeof KINDS)[number]["key"];
export const CALL_KINDS: readonly CallKind<Call>[] = KINDS;
export const CALLS: readonly [Call, ...Call[]] = KINDS.map(({ key }) => key) as unknown as [Call, ...Call[]];

const BY_KEY = new Map<string, CallKind<Call>>(CALL_KINDS.map((kind) => [kind.key, kind]));

/** The kind of a call as it is stored; undefined for what isn’t a call, such as what a walk decides. */
export const findCall = (key: string): CallKind<Call> | undefined => BY_KEY.get(key);

/**
 * The kind of a call.
 *
 * @throws Error for a key there is none of
 * @example callKind("moves").asks // "day"
 */
export function callKind(key: Call): CallKind<Call> {
	const kind = findCall(key);
	if (!kind) throw new Error(`no call is called ${key}`);
	return kind;
}

/** A call as it counts. */
export interface Called {
	readonly call: Call;
	/** the day it moves to, or NO_DAY */
	readonly to: number;
}
