import { NONE } from "../history/columns";
import type { Calendar } from "../time/calendar";
import type { Day } from "../time/day";
import { type AccountTouch, isLookedAt, newestOf } from "./touch";

/** after so many calendar days a conversation counts half */
const HALF = 90;
const CLOSE = 2;
const KNOWN = 0.5;
/** so many working days there are for an answer */
const ANSWER_WITHIN = 10;
/** of fewer touches it isn't said how many are answered */
const LEAST = 5;

export type TieWord = "close" | "known" | "faint";

/** How well one of ours and one of theirs know each other. */
export interface Tie {
	readonly contact: string;
	/** index of the person of ours */
	readonly person: number;
	readonly tie: number;
	readonly word: TieWord;
	/** how many conversations and messages of theirs it is made of */
	readonly conversations: number;
	/** the newest touch of the two, ours too */
	readonly last: AccountTouch;
	/** how many of our messages they answer; null under 5 of which that can be said */
	readonly answers: { readonly k: number; readonly n: number } | null;
}

/**
 * How a tie is worded: *close* from 2, *known* from 0.5, *faint* above 0.
 *
 * @example [tieWord(2), tieWord(0.5), tieWord(0.01), tieWord(0)] // ["close", "known", "faint", null]
 */
export function tieWord(tie: number): TieWord | null {
	if (tie >= CLOSE) return "close";
	if (tie >= KNOWN) return "known";
	return tie > 0 ? "faint" : null;
}

/**
 * What conversations of some ages are worth together: each half as much after 90 days.
 *
 * @param ages calendar days
 * @example tieOf([10, 100, 45]).toFixed(5) // "2.09592"
 */
export const tieOf = (ages: readonly number[]): number => ages.reduce((sum, age) => sum + 2 ** (-age / HALF), 0);

interface Seen {
	readonly day: Day;
	readonly calendar: Calendar;
}

/** The ties of each pair that has one, the closest first, then by newest touch, then by ids. Touches of other times are left out. */
export function tiesOf(touches: Iterable<AccountTouch>, seen: Seen): Tie[] {
	const looked = [...touches].filter(({ day }) => isLookedAt(day, seen.day));
	const byContact = new Map<string, AccountTouch[]>();
	for (const touch of looked) for (const contact of new Set(touch.contacts)) push(byContact, contact, touch);
	const ties: Tie[] = [];
	for (const [contact, all] of byContact) {
		const byPerson = new Map<number, AccountTouch[]>();
		for (const touch of all) if (touch.by !== NONE) push(byPerson, touch.by, touch);
		for (const [person, own] of byPerson) {
			const heard = own.filter(({ direction }) => direction !== "out");
			const tie = tieOf(heard.map(({ day }) => seen.day - day));
			const word = tieWord(tie);
			const last = newestOf(own);
			if (word && last) ties.push({ contact, person, tie, word, conversations: heard.length, last, answers: answersOf(own, all, seen) });
		}
	}
	return ties.sort(byTie);
}

/** Of our messages to somebody, how many were answered, by whomever of ours that was heard: null under 5 that can be told of. */
export function answersOf(own: readonly AccountTouch[], withThem: readonly AccountTouch[], { day, calendar }: Seen): Tie["answers"] {
	const heard = withThem.filter(({ direction }) => direction !== "out");
	let [k, n] = [0, 0];
	for (const touch of own) {
		if (touch.direction !== "out") continue;
		const answered = heard.some((one) => one.at > touch.at && (one.day === touch.day || calendar.between(touch.day, one.day) <= ANSWER_WITHIN));
		if (answered) k++;
		if (answered || calendar.between(touch.day, day) > ANSWER_WITHIN) n++;
	}
	return n < LEAST ? null : { k, n };
}

function push<K, V>(lists: Map<K, V[]>, key: K, value: V): void {
	const list = lists.get(key);
	if (list) list.push(value);
	else lists.set(key, [value]);
}

const byTie = (a: Tie, b: Tie): number =>
	b.tie - a.tie || b.last.at - a.last.at || (a.contact < b.contact ? -1 : a.contact > b.contact ? 1 : a.person - b.person);

/**
 * The ways in to an account: those whom somebody knows who decides, then the closest, then by newest touch, then by ids.
 *
 * @param decides whether a contact is one who signs
 * @param personId the id of a person of ours; null for who doesn't work here on the day
 */
export function waysIn(ties: readonly Tie[], decides: (contact: string) => boolean, personId: (person: number) => string | null): Tie[] {
	return ties
		.filter(({ person }) => personId(person) !== null)
		.sort((a, b) => {
			const first = Number(decides(b.contact)) - Number(decides(a.contact)) || b.tie - a.tie || b.last.at - a.last.at;
			if (first) return first;
			if (a.contact !== b.contact) return a.contact < b.contact ? -1 : 1;
			return (personId(a.person) ?? "") < (personId(b.person) ?? "") ? -1 : 1;
		});
}
