/** What an entry of the audit keeps besides who did what to what. */
type Detail = Readonly<Record<string, unknown>>;

/** Names for ids that stand among the values, such as people's; null for what is no such id. */
export type NameOf = (id: string) => string | null;

const MOST_OF_A_LIST = 5;
const LONGEST = 200;

const isRecord = (value: unknown): value is Detail => typeof value === "object" && value !== null && !Array.isArray(value);
/** `fiscalStartMonth` as `fiscal start month`. */
const fieldWords = (name: string) => name.replace(/([a-z])([A-Z])/g, (_, one: string, two: string) => `${one} ${two.toLowerCase()}`);

function valueWords(value: unknown, nameOf: NameOf): string {
	if (value === null || value === undefined || value === "") return "nothing";
	if (typeof value === "boolean") return value ? "yes" : "no";
	if (typeof value === "string") return (nameOf(value) ?? value).slice(0, LONGEST);
	if (typeof value === "number") return String(value);
	if (Array.isArray(value)) {
		if (!value.length) return "none";
		const shown = value.slice(0, MOST_OF_A_LIST).map((one) => valueWords(one, nameOf));
		return `${shown.join(", ")}${value.length > MOST_OF_A_LIST ? ` and ${value.length - MOST_OF_A_LIST} more` : ""}`;
	}
	const parts = Object.entries(value as Detail).flatMap(([name, one]) => (one === null ? [] : [`${fieldWords(name)} ${valueWords(one, nameOf)}`]));
	return parts.join(", ").slice(0, LONGEST) || "nothing";
}

const same = (a: unknown, b: unknown) => JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

/** Field by field from what to what; what stayed isn't named. Records within are gone into. */
function changes(before: Detail, after: Detail, nameOf: NameOf, path = ""): string[] {
	// What is kept of before may hold more than what was changed: only fields of both, and new ones, are held against each other.
	return Object.keys(after).flatMap((name) => {
		const [a, b] = [before[name], after[name]];
		if (same(a, b)) return [];
		const field = `${path}${fieldWords(name)}`;
		return isRecord(a) && isRecord(b) ? changes(a, b, nameOf, `${field}: `) : [`${field} ${valueWords(a, nameOf)} → ${valueWords(b, nameOf)}`];
	});
}

/**
 * The gist of an entry in words: field by field what was changed from what to what, or the values that were given.
 *
 * @example detailWords({ before: { role: "rep" }, after: { role: "manager" } }, () => null) // "role rep → manager"
 */
export function detailWords(detail: Detail, nameOf: NameOf): string {
	const { changed, reason, before, after, ...rest } = detail;
	if (Array.isArray(changed)) {
		const fields = changed as readonly { field: string; before: string; after: string }[];
		return fields.map((c) => `${c.field} ${c.before} → ${c.after}`).join("; ") + (reason ? `: “${String(reason)}”` : "");
	}
	const parts: string[] = [];
	if (isRecord(after)) parts.push(...(isRecord(before) ? changes(before, after, nameOf) : [valueWords(after, nameOf)]));
	else if (after !== undefined || before !== undefined) parts.push(`${valueWords(before, nameOf)} → ${valueWords(after, nameOf)}`);
	for (const [name, value] of Object.entries({ ...rest, ...(reason === undefined ? {} : { reason }) }))
		if (value !== null && value !== undefined && !(isRecord(value) && !Object.keys(value).length))
			parts.push(`${fieldWords(name)} ${valueWords(value, nameOf)}`);
	return parts.join("; ");
}
