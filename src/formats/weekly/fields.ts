import { parseDay } from "../../core/time/day";

/** What a weekly export can tell of a deal. */
export const WEEKLY_FIELDS = [
	{
		key: "id",
		words: "Deal number",
		needed: false,
		names: [
			"id",
			"deal id",
			"deal number",
			"deal no",
			"number",
			"reference",
			"ref",
			"record id",
			"opportunity id",
			"opportunity number",
			"opportunity no",
			"opp id",
			"opp no",
			"key",
		],
	},
	{ key: "name", words: "Deal", needed: true, names: ["deal", "name", "deal name", "title", "subject", "opportunity", "opportunity name", "project"] },
	{
		key: "account",
		words: "Account",
		needed: false,
		names: ["account", "account name", "company", "company name", "customer", "client", "organisation", "organization"],
	},
	{ key: "stage", words: "Stage", needed: true, names: ["stage", "sales stage", "phase", "step", "status", "pipeline stage"] },
	{ key: "amount", words: "Amount", needed: true, names: ["amount", "value", "deal value", "sum", "total", "revenue", "price", "worth"] },
	{ key: "currency", words: "Currency", needed: false, names: ["currency", "currency code", "amount currency"] },
	{
		key: "closeDate",
		words: "Close date",
		needed: true,
		names: ["close date", "closing date", "expected close", "expected close date", "close", "due", "due date"],
	},
	{ key: "owner", words: "Rep", needed: true, names: ["owner", "rep", "sales rep", "salesperson", "seller", "responsible", "deal owner", "account manager"] },
	{ key: "category", words: "Category", needed: false, names: ["category", "forecast category", "forecast"] },
	{ key: "nextStep", words: "Next step", needed: false, names: ["next step", "next action", "next activity", "next steps", "to do"] },
	{
		key: "nextStepDate",
		words: "Next step’s day",
		needed: false,
		names: ["next step date", "next step day", "next action date", "next activity date", "follow up", "follow up date"],
	},
	{ key: "source", words: "Source", needed: false, names: ["source", "lead source", "origin", "channel"] },
	{ key: "created", words: "Created", needed: false, names: ["created", "created on", "created date", "created at", "creation date", "opened", "opened on"] },
] as const;
export type WeeklyField = (typeof WEEKLY_FIELDS)[number]["key"];

/** Their column for each of our fields; null where there is none. */
export type Columns = Readonly<Record<WeeklyField, string | null>>;

/** A name as it is compared: small letters and digits, one space between words. */
export const comparable = (text: string) =>
	text
		.toLowerCase()
		.replace(/[^\p{L}\p{N}]+/gu, " ")
		.trim();

/**
 * A guess at each column: what was said before where the column is still there, else a name that means it, else a
 * name that contains one that does. No column is used twice.
 */
export function guessColumns(header: readonly string[], remembered: Partial<Columns> | null): Columns {
	const free = new Set(header.filter(Boolean));
	const found: Partial<Record<WeeklyField, string | null>> = {};
	const take = (key: WeeklyField, name: string | undefined) => {
		if (name === undefined || found[key] || !free.has(name)) return;
		found[key] = name;
		free.delete(name);
	};
	for (const { key } of WEEKLY_FIELDS) take(key, remembered?.[key] ?? undefined);
	// What was said to have no column has none.
	for (const { key } of WEEKLY_FIELDS) if (remembered && remembered[key] === null) found[key] = null;
	const open = () => WEEKLY_FIELDS.filter(({ key }) => found[key] === undefined);
	for (const { key, names } of open())
		take(
			key,
			[...free].find((name) => (names as readonly string[]).includes(comparable(name))),
		);
	// Of names that only contain one, the longest match goes first: "Deal owner name" is rather the owner's.
	const within = open().flatMap(({ key, names }) =>
		[...free].map((name) => ({
			key,
			name,
			length: Math.max(0, ...names.filter((one) => one.length > 3 && ` ${comparable(name)} `.includes(` ${one} `)).map((one) => one.length)),
		})),
	);
	for (const { key, name, length } of within.sort((a, b) => b.length - a.length)) if (length) take(key, name);
	return Object.fromEntries(WEEKLY_FIELDS.map(({ key }) => [key, found[key] ?? null])) as Columns;
}

/** A column that is mapped to two fields; null when none is. */
export function mappedTwice(columns: Columns): { column: string; fields: string[] } | null {
	for (const column of new Set(Object.values(columns))) {
		const fields = WEEKLY_FIELDS.filter(({ key }) => column !== null && columns[key] === column).map(({ words }) => words);
		if (column !== null && fields.length > 1) return { column, fields };
	}
	return null;
}

/** The day a file was taken by its name: `pipeline-2026-11-16.csv`, `export 16.11.2026.csv`, `20261116.csv`; null where the name says none. */
export function dayFromName(name: string): string | null {
	const pad = (text: string) => text.padStart(2, "0");
	const year = /(?<!\d)(20\d\d)[-_. ]?(\d\d)[-_. ]?(\d\d)(?!\d)/.exec(name);
	if (year) return sound(`${year[1]}-${year[2]}-${year[3]}`);
	const last = /(?<!\d)(\d{1,2})[-_. ](\d{1,2})[-_. ](20\d\d)(?!\d)/.exec(name);
	// With the year last, a number over twelve says which of the two is the day; else it isn't sure, and is asked.
	if (!last) return null;
	const [a, b] = [Number(last[1]), Number(last[2])];
	if (name.includes(`${last[1]}.${last[2]}.`) || a > 12) return sound(`${last[3]}-${pad(String(b))}-${pad(String(a))}`);
	return b > 12 ? sound(`${last[3]}-${pad(String(a))}-${pad(String(b))}`) : null;
}

/** The day, if it is one of the calendar. */
export const sound = (iso: string): string | null => (parseDay(iso) === null ? null : iso);
