/** A group that the company’s sign-in names, and what its people are here. */
export interface GroupLine<R extends string = string> {
	readonly group: string;
	readonly role: R;
	readonly team: string | null;
}

/**
 * What somebody is by their groups: the first line of the list that fits; null where none does. Names are told apart by their
 * letters, not by their size.
 *
 * @example lineFor([{ group: "Sales North", role: "rep", team: "North" }], ["all staff", "sales north"])?.team // "North"
 */
export function lineFor<L extends GroupLine>(lines: readonly L[], groups: readonly string[]): L | null {
	const own = new Set(groups.map(plain));
	return lines.find(({ group }) => own.has(plain(group))) ?? null;
}
const plain = (name: string) => name.trim().toLowerCase();

/**
 * The groups that a claim names: a text, or a list of them, found by a path of names parted by points.
 *
 * @example groupsIn({ realm: { roles: ["a", "b"] } }, "realm.roles") // ["a","b"]
 */
export function groupsIn(claims: unknown, path: string): string[] {
	// A claim may have points in its own name, as those with an address do.
	const whole = (claims as Record<string, unknown> | null)?.[path];
	const found =
		whole ?? path.split(".").reduce<unknown>((at, name) => (at !== null && typeof at === "object" ? (at as Record<string, unknown>)[name] : undefined), claims);
	return (Array.isArray(found) ? found : [found]).filter((one): one is string => typeof one === "string" && one.trim() !== "");
}
