import type { Direction } from "./activity";

/** A message or a meeting out of a file, as far as its fate is concerned. */
export interface Found {
	/** Message-ID of a message, UID of a meeting: what has one of them is one and the same, wherever it comes from */
	readonly key: string;
	readonly sort: "message" | "meeting";
	/** ms since the epoch; null where it says none that can be */
	readonly at: number | null;
	/** addresses in lower case: the sender or organizer (empty: none), and the others */
	readonly from: string;
	readonly to: readonly string[];
	/** out-of-office notes, lists and loops */
	readonly automatic: boolean;
	readonly cancelled: boolean;
}

/** What is known where it is to be logged. */
export interface Around {
	/** people of ours by address: their index */
	readonly ours: ReadonlyMap<string, number>;
	/** people of theirs by address: the contact's id */
	readonly theirs: ReadonlyMap<string, string>;
	/** what is logged already */
	readonly there: ReadonlySet<string>;
	/** ms since the epoch, and the end of its day */
	readonly now: number;
	readonly tonight: number;
	/** of an archive only what somebody known of theirs has part in is meant; of a message by itself, that it is meant is plain */
	readonly archive: boolean;
}

export type LeftWhy = "date" | "future" | "automatic" | "cancelled" | "ours" | "theirs" | "twice";

/** What becomes of it. */
export type Fate =
	| {
			readonly fate: "new";
			readonly direction: Direction;
			/** of ours who wrote or was written to, by index; null: the person who logs it */
			readonly by: number | null;
			readonly contacts: readonly string[];
			readonly planned: boolean;
	  }
	| { readonly fate: "there" }
	| { readonly fate: "left"; readonly why: LeftWhy };

/** no mail is older */
const FIRST = Date.UTC(1990, 0, 1);

const left = (why: LeftWhy): Fate => ({ fate: "left", why });

/**
 * Says of each message and meeting what becomes of it, in the order of the file: the second of two with one key is the same again.
 * A message goes out where one of ours wrote it and somebody else got it, comes in where somebody else wrote it to one of ours, and
 * is internal among ours. A meeting is a conversation.
 */
export function fatesOf(found: readonly Found[], around: Around): Fate[] {
	const seen = new Set<string>();
	return found.map((one) => {
		if (around.there.has(one.key)) return { fate: "there" };
		if (seen.has(one.key)) return left("twice");
		seen.add(one.key);
		return fateOf(one, around);
	});
}

function fateOf({ sort, at, from, to, automatic, cancelled }: Found, { ours, theirs, now, tonight, archive }: Around): Fate {
	if (cancelled) return left("cancelled");
	if (automatic) return left("automatic");
	if (at === null || at < FIRST) return left("date");
	if (sort === "message" && at >= tonight) return left("future");
	const people = [from, ...to].filter(Boolean);
	const own = people.flatMap((address) => ours.get(address) ?? []);
	const others = people.filter((address) => !ours.has(address));
	const contacts = [...new Set(others.flatMap((address) => theirs.get(address) ?? []))];
	if (sort === "meeting") {
		if (archive && !contacts.length) return left("theirs");
		return { fate: "new", direction: others.length || !own.length ? "both" : "none", by: ours.get(from) ?? own[0] ?? null, contacts, planned: at > now };
	}
	if (!own.length) return left("ours");
	const writer = ours.get(from);
	const direction: Direction = writer === undefined ? "in" : others.length ? "out" : "none";
	if (archive && !contacts.length && direction !== "none") return left("theirs");
	// Mail among ours in an archive is about whatever; one that is dropped by itself is meant.
	if (archive && direction === "none") return left("theirs");
	return { fate: "new", direction, by: writer ?? own[0] ?? null, contacts, planned: false };
}

/** Somebody who has part in what was found and is known neither as one of ours nor of theirs. */
export interface Stranger {
	readonly address: string;
	readonly name: string;
	/** messages and meetings they have part in */
	readonly times: number;
}

/** Those who have part and aren’t known, the most frequent first. */
export function strangersOf(
	found: readonly { readonly people: readonly { readonly address: string; readonly name: string }[] }[],
	{ ours, theirs }: Pick<Around, "ours" | "theirs">,
): Stranger[] {
	const known = new Map<string, { name: string; times: number }>();
	for (const { people } of found)
		for (const [address, name] of new Map(people.map((one) => [one.address, one.name]))) {
			if (!address || ours.has(address) || theirs.has(address)) continue;
			const one = known.get(address);
			known.set(address, { name: one?.name || name, times: (one?.times ?? 0) + 1 });
		}
	return [...known].map(([address, one]) => ({ address, ...one })).sort((a, b) => b.times - a.times || (a.address < b.address ? -1 : 1));
}
