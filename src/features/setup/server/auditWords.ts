/** What an entry of the audit keeps besides who did what to what. */
type Detail = Readonly<Record<string, unknown>>;

/** Names for ids that stand among the values, such as people's; null for what is no such id. */
export type NameOf = (id: string) => string | null;

const MOST_OF_A_LIST = 5;
const LONGEST = 200;
/** ids that the program made itself, which say nothing to anybody */
const OWN_ID = /^([a-z]+-)?[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

const isRecord = (value: unknown): value is Detail => typeof value === "object" && value !== null && !Array.isArray(value);
/** `fiscalStartMonth` as `fiscal start month`, `ownerId` as `owner`. */
const fieldWords = (name: string) => name.replace(/Ids?$/, "").replace(/([a-z])([A-Z])/g, (_, one: string, two: string) => `${one} ${two.toLowerCase()}`);

function valueWords(value: unknown, nameOf: NameOf): string {
	if (value === null || value === undefined || value === "") return "nothing";
	if (typeof value === "boolean") return value ? "yes" : "no";
	if (typeof value === "string") return (nameOf(value) ?? (OWN_ID.test(value) ? "one that was deleted" : value)).slice(0, LONGEST);
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

/** What tells a record of a list from the others, by the first of these that it has; else all of it. */
const NAMES = ["id", "key", "code", "kind", "name", "date", "personId"] as const;
const nameIn = (record: Detail) => NAMES.find((name) => typeof record[name] === "string");
const keyIn = (record: Detail): string => {
	const name = nameIn(record);
	return name && name !== "personId" ? String(record[name]) : JSON.stringify(record);
};
/** What a record of a list is called. */
const labelIn = (record: Detail, nameOf: NameOf): string => valueWords(record.name ?? record.prompt ?? record.words ?? record, nameOf);

/** What of a list is new, what is gone, and what of the rest was changed. */
function listChanges(before: readonly unknown[], after: readonly unknown[], nameOf: NameOf, path: string): string[] {
	if (![...before, ...after].every(isRecord)) {
		const words = (list: readonly unknown[], others: readonly unknown[]) => list.filter((one) => !others.some((other) => same(one, other)));
		const [gone, fresh] = [words(before, after), words(after, before)];
		if (!gone.length && !fresh.length) return [`${path}in another order: ${valueWords(after, nameOf)}`];
		return [...(gone.length ? [`${path}without ${valueWords(gone, nameOf)}`] : []), ...(fresh.length ? [`${path}with ${valueWords(fresh, nameOf)}`] : [])];
	}
	const was = new Map((before as Detail[]).map((record) => [keyIn(record), record]));
	const is = new Map((after as Detail[]).map((record) => [keyIn(record), record]));
	const found = [
		...[...was].flatMap(([key, record]) => (is.has(key) ? [] : [`${path}without ${labelIn(record, nameOf)}`])),
		...[...is].flatMap(([key, record]) => {
			const old = was.get(key);
			return old ? changes(old, record, nameOf, `${path}${labelIn(record, nameOf)}: `) : [`${path}with ${labelIn(record, nameOf)}`];
		}),
	];
	return found.length ? found : [`${path}in another order`];
}

/** Field by field from what to what; what stayed isn't named. Records and lists within are gone into. */
function changes(before: Detail, after: Detail, nameOf: NameOf, path = ""): string[] {
	// What is kept of before may hold more than what was changed: only fields of both, and new ones, are held against each other.
	return Object.keys(after).flatMap((name) => {
		const [a, b] = [before[name], after[name]];
		return same(a, b) ? [] : changeOf(a, b, nameOf, `${path}${fieldWords(name)}`);
	});
}

/** One value from what to what; `field` says which, empty where it is all there is. */
function changeOf(before: unknown, after: unknown, nameOf: NameOf, field: string): string[] {
	if (isRecord(before) && isRecord(after)) return changes(before, after, nameOf, field && `${field}: `);
	if (Array.isArray(before) && Array.isArray(after)) return listChanges(before, after, nameOf, field && `${field} `);
	return [`${field}${field && " "}${valueWords(before, nameOf)} → ${valueWords(after, nameOf)}`];
}

const MOST_PARTS = 12;
/** numbers of rows, which only the program reads */
const INNER = new Set(["version", "was", "versionId", "outcomeBefore", "wasBefore"]);
const inner = (name: string, value: unknown) => INNER.has(name) && typeof value !== "string";

/**
 * The gist of an entry in words: field by field what was changed from what to what (`before` and `after`, or a pair such as
 * `dueBefore` and `dueAfter`), or the values that were given.
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
	if (after !== undefined)
		parts.push(
			...((before ?? null) === null && isRecord(after)
				? [valueWords(after, nameOf)]
				: same(before, after)
					? ["as it was"]
					: changeOf(before, after, nameOf, "")),
		);
	else if (before !== undefined) parts.push(`was ${valueWords(before, nameOf)}`);
	for (const [name, value] of Object.entries({ ...rest, ...(reason === undefined ? {} : { reason }) })) {
		if (value === null || value === undefined || inner(name, value) || (isRecord(value) && !Object.keys(value).length)) continue;
		const pair = /^(.+)(Before|After)$/.exec(name);
		const other = pair && (pair[2] === "Before" ? `${pair[1]}After` : `${pair[1]}Before`);
		if (pair?.[1] && other && other in rest) {
			if (pair[2] === "After" && !same(rest[other], value)) parts.push(...changeOf(rest[other], value, nameOf, fieldWords(pair[1])));
		} else parts.push(`${fieldWords(name)} ${valueWords(value, nameOf)}`);
	}
	return parts.length > MOST_PARTS ? `${parts.slice(0, MOST_PARTS).join("; ")}; and ${parts.length - MOST_PARTS} more` : parts.join("; ");
}
