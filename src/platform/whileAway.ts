import { waysToDatabase } from "@/data/db";
import { awaySince, DatabaseAway, isAway, lookForDatabase, reachedBy } from "@/data/reach";

/** After so long without an answer it is looked whether the database is there, and so often whether that is known, in ms. */
const SLOW = 1000;
const LOOKS = 100;
/** so long a read waits for a connection that broke to be made again, in ms */
const READ_WAITS = 1000;

/** An answer, or DatabaseAway as soon as it is known that none will come. */
async function unlessAway<T>(answer: Promise<T>): Promise<T> {
	let look: NodeJS.Timeout | undefined;
	const slow = setTimeout(() => {
		void lookForDatabase(waysToDatabase());
	}, SLOW);
	const away = new Promise<never>((_, reject) => {
		look = setInterval(() => awaySince() !== null && reject(new DatabaseAway()), LOOKS);
	});
	try {
		return await Promise.race([answer, away]);
	} finally {
		clearTimeout(slow);
		clearInterval(look);
	}
}

/** What the database says; and while it can’t be reached, what is known from before. @throws what `known` throws, or DatabaseAway */
export async function orKnown<T>(ask: () => Promise<T>, known: () => Promise<T> | T): Promise<T> {
	if (awaySince() !== null) return known();
	try {
		return await unlessAway(ask());
	} catch (error) {
		if (!isAway(error)) throw error;
		// One connection that broke isn’t the database.
		return (await reachedBy(waysToDatabase(), Date.now() + READ_WAITS)) ? ask() : known();
	}
}

/** What is said from memory or by the database; nothing where that is away and needed: for what a page can do without. */
export async function orNothing<T>(ask: () => Promise<T>, nothing: T): Promise<T> {
	try {
		return await unlessAway(ask());
	} catch (error) {
		if (!isAway(error)) throw error;
		return nothing;
	}
}

/** Does a part of a write that asks the database before it begins; until an instant (ms) it waits for one that is away. */
export async function whenReached<T>(until: number, work: () => Promise<T>): Promise<T> {
	for (;;) {
		try {
			return await work();
		} catch (error) {
			if (!isAway(error) || !(await reachedBy(waysToDatabase(), until))) throw error;
		}
	}
}
