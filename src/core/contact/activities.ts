import { inARow, textsOnce } from "../spans";
import type { Day } from "../time/day";
import { type Activity, DIRECTIONS } from "./activity";

/** Activities of many deals as columns: millions of them are kept at once. */
export interface ActivityColumns {
	readonly at: Float64Array;
	readonly day: Int32Array;
	readonly recorded: Int32Array;
	readonly plannedFor: Int32Array;
	readonly settled: Int32Array;
	/** index of the person, or NONE */
	readonly by: Int16Array;
	/** index in `kinds` */
	readonly kind: Int16Array;
	/** index in DIRECTIONS */
	readonly direction: Int8Array;
	/** 1: planned */
	readonly planned: Int8Array;
	/** activity i was with the contacts contactOffsets[i] to contactOffsets[i + 1] − 1 */
	readonly contactOffsets: Int32Array;
	/** index in `people` */
	readonly contacts: Int32Array;
	readonly kinds: readonly string[];
	readonly people: readonly string[];
}

/** The activities of one deal in the order of their ids: the rows `from` to `end` − 1 of some columns. */
export class Activities implements Iterable<Activity> {
	constructor(
		readonly columns: ActivityColumns,
		readonly from: number,
		readonly end: number,
	) {}

	get length(): number {
		return this.end - this.from;
	}

	/** what they say, wherever they are kept */
	toJSON(): Activity[] {
		return [...this];
	}

	*[Symbol.iterator](): Iterator<Activity> {
		for (let row = this.from; row < this.end; row++) yield activityAt(this.columns, row);
	}
}

/** One activity of the columns, spelt out. */
const activityAt = (columns: ActivityColumns, row: number): Activity => ({
	kind: columns.kinds[columns.kind[row] as number] as string,
	direction: DIRECTIONS[columns.direction[row] as number] as Activity["direction"],
	state: columns.planned[row] ? "planned" : "done",
	at: columns.at[row] as number,
	day: columns.day[row] as Day,
	contacts: contactsAt(columns, row),
	recorded: columns.recorded[row] as Day,
	plannedFor: columns.plannedFor[row] as Day,
	settled: columns.settled[row] as Day,
	by: columns.by[row] as number,
});

/** The ids of the people of the buyer's who took part in an activity. */
export const contactsAt = ({ contacts, contactOffsets, people }: ActivityColumns, row: number): string[] =>
	Array.from(contacts.subarray(contactOffsets[row], contactOffsets[row + 1]), (place) => people[place] as string);

/** The activities of some deals, one list a deal in the order of their ids, in columns that they share. */
export function packActivities(lists: readonly Iterable<Activity>[]): Activities[] {
	const { all, spans } = inARow(lists);
	const [kinds, people] = [textsOnce(), textsOnce()];
	const withWhom = all.map(({ contacts }) => contacts.map(people.place));
	const columns: ActivityColumns = {
		at: Float64Array.from(all, ({ at }) => at),
		day: Int32Array.from(all, ({ day }) => day),
		recorded: Int32Array.from(all, ({ recorded }) => recorded),
		plannedFor: Int32Array.from(all, ({ plannedFor }) => plannedFor),
		settled: Int32Array.from(all, ({ settled }) => settled),
		by: Int16Array.from(all, ({ by }) => by),
		kind: Int16Array.from(all, ({ kind }) => kinds.place(kind)),
		direction: Int8Array.from(all, ({ direction }) => DIRECTIONS.indexOf(direction)),
		planned: Int8Array.from(all, ({ state }) => (state === "planned" ? 1 : 0)),
		contactOffsets: offsetsOf(withWhom),
		contacts: Int32Array.from(withWhom.flat()),
		kinds: kinds.texts,
		people: people.texts,
	};
	return spans.map(([from, end]) => new Activities(columns, from, end));
}

function offsetsOf(lists: readonly { readonly length: number }[]): Int32Array {
	const offsets = new Int32Array(lists.length + 1);
	lists.forEach(({ length }, i) => {
		offsets[i + 1] = (offsets[i] as number) + length;
	});
	return offsets;
}

/** A touch by its row: done, and with somebody outside. A record edited is not a customer spoken to. */
export const isTouchAt = ({ planned, direction }: ActivityColumns, row: number): boolean => planned[row] === 0 && direction[row] !== INTERNAL;
const INTERNAL = DIRECTIONS.indexOf("none");

/** The activities of one deal, in columns of its own. */
export const activitiesOf = (list: Iterable<Activity>): Activities => packActivities([list])[0] as Activities;

/** Of no deal, or of one with which nothing was done yet. */
export const NO_ACTIVITIES = activitiesOf([]);
