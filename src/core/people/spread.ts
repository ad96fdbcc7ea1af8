/** What goes to somebody, and what it is worth. */
export interface Spread {
	readonly id: string;
	readonly amount: number;
}

/**
 * Spreads things over people so that what each gets comes to about the same: the largest first, always to the one who has least
 * so far (of two the first named). Each thing goes to one person; nobody ends further above another than the largest is worth.
 *
 * @returns the person by the thing's id
 * @example [...spread([{ id: "a", amount: 5 }, { id: "b", amount: 3 }, { id: "c", amount: 1 }], ["x", "y"]).values()] // ["x","y","y"]
 */
export function spread(things: readonly Spread[], people: readonly string[]): Map<string, string> {
	const given = new Map<string, string>();
	const sums = people.map((person) => ({ person, sum: 0 }));
	for (const { id, amount } of [...things].sort((a, b) => b.amount - a.amount || (a.id < b.id ? -1 : 1))) {
		let least = sums[0];
		for (const one of sums) if (least && one.sum < least.sum) least = one;
		if (!least) break;
		least.sum += amount;
		given.set(id, least.person);
	}
	return given;
}
