/** An account that is to be given to one of several. */
export interface Shared {
	readonly id: string;
	/** what it is worth, so that nobody gets all that is large */
	readonly worth: number;
}

/**
 * Gives accounts to several people so that each gets about as much: the one worth most first, always to the person who has
 * least yet, and of those who have the same to the one with fewest.
 *
 * @returns the person by account, for the same input always the same
 */
export function spreadOver(accounts: readonly Shared[], people: readonly string[]): Map<string, string> {
	const has = people.map((person) => ({ person, worth: 0, count: 0 }));
	const given = new Map<string, string>();
	for (const { id, worth } of [...accounts].sort((a, b) => b.worth - a.worth || (a.id < b.id ? -1 : 1))) {
		const [least] = [...has].sort((a, b) => a.worth - b.worth || a.count - b.count);
		if (!least) break;
		least.worth += worth;
		least.count++;
		given.set(id, least.person);
	}
	return given;
}
