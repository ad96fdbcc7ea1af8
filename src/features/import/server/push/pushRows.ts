import { stringify } from "csv-stringify/sync";
import { sql } from "drizzle-orm";
import { z } from "zod";
import { formatAmount } from "@/core/money/amount";
import type { Tx } from "@/data/db";
import { isOneOf } from "@/data/queries/isOneOf";
import { dealVersions } from "@/data/schema";
import { type NamedIds, readKnown } from "@/data/store/known";
import { keepQuiet } from "@/data/store/quiet";
import { writeRows } from "@/data/store/writeBundle";
import { checkBundle } from "@/formats/bundle/check";
import type { Problem, Row } from "@/formats/bundle/model";
import { readBundle } from "@/formats/bundle/read";
import { type BundleFile, SPECS } from "@/formats/bundle/spec";
import { readRecords } from "@/formats/csv";
import { command } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { IMPORT_LOCK } from "../importBundle";
import { apiName, PUSHED, type PushKind } from "./kinds";

export const MOST_ROWS = 1000;

const value = z.union([z.string().max(100_000), z.number(), z.boolean(), z.array(z.string().max(200)).max(500), z.null()]);
export const pushedRowSchema = z.record(z.string().max(40), value);
type Pushed = z.output<typeof pushedRowSchema>;

/** What became of a row that was pushed. */
export interface Fate {
	readonly id: string;
	readonly fate: "created" | "updated" | "refused";
	/** of one that was refused */
	readonly problems: readonly { readonly field: string | null; readonly reason: string }[];
}

/**
 * Writes rows of another system by its own ids, each whole or not at all, by the rules of a bundle: a row that is there is
 * changed in what is given, the same again changes nothing. What of a deal is kept through time becomes its next version
 * where it differs from the one in force. Amounts are in minor units.
 */
export const pushRows = command({
	name: "import.push",
	right: "importBundle",
	server: true,
	input: z.object({
		kind: z.enum(PUSHED.map(({ key }) => key) as [string, ...string[]]),
		rows: z.array(pushedRowSchema).min(1, "Send at least one row.").max(MOST_ROWS, `Send at most ${MOST_ROWS} rows at once.`),
	}),
	async run({ context, input: { kind: key, rows }, tx }) {
		const kind = PUSHED.find((one) => one.key === key) as PushKind;
		// What it is checked against must not change before it is written.
		await tx.execute(sql`select pg_advisory_xact_lock(${IMPORT_LOCK})`);
		const fates = new Map<number, Fate>();
		const touched = new Set<string>();
		for (const group of groupsOf(kind, rows, fates)) await writeGroup(tx, context, kind, group, fates, touched);
		const list = rows.map((row, i) => fates.get(i) ?? { id: String(row.id ?? ""), fate: "refused" as const, problems: [] });
		const count = (fate: Fate["fate"]) => list.filter((one) => one.fate === fate).length;
		const written = count("created") + count("updated");
		return {
			result: list,
			touched: written
				? { deals: [...touched], parts: kind.key === "accounts" || kind.key === "contacts" || kind.key === "activities" ? ["accounts"] : [] }
				: "nothing",
			audit: written
				? {
						action: "rows pushed",
						subject: kind.key,
						detail: { kind: kind.key, created: count("created"), updated: count("updated"), refused: count("refused") },
					}
				: [],
		};
	},
});

interface Numbered {
	readonly at: number;
	readonly id: string;
	readonly row: Pushed;
}

/** Rows that give the same columns go together; those that can’t be read at all are refused here. */
function groupsOf(kind: PushKind, rows: readonly Pushed[], fates: Map<number, Fate>): Numbered[][] {
	const names = new Set(["id", ...(kind.state ? ["at"] : []), ...[...kind.columns, ...(kind.state?.columns ?? [])].map(apiName)]);
	const seen = new Set<string>();
	const groups = new Map<string, Numbered[]>();
	rows.forEach((row, at) => {
		const id = typeof row.id === "string" ? row.id.trim() : "";
		const unknown = Object.keys(row).filter((name) => !names.has(name));
		const refuse = (field: string | null, reason: string) => void fates.set(at, { id, fate: "refused", problems: [{ field, reason }] });
		if (!id) return refuse("id", `a ${kind.one} needs an id`);
		if (seen.has(id)) return refuse("id", "the same id stands in this batch twice; the first one counts");
		seen.add(id);
		if (unknown.length) return refuse(unknown[0] ?? null, `a ${kind.one} has no such field; it has ${[...names].join(", ")}`);
		const key = kind.columns.filter((column) => apiName(column) in row).join(" ");
		groups.set(key, [...(groups.get(key) ?? []), { at, id, row }]);
	});
	return [...groups.values()];
}

async function writeGroup(tx: Tx, context: Context, kind: PushKind, group: readonly Numbered[], fates: Map<number, Fate>, touched: Set<string>): Promise<void> {
	const now = new Date(context.now.instant);
	const known = await readKnown(tx, context.now.instant, namedIn(kind, group));
	const there = known.ids.get(kind.file) ?? new Set<string>();
	const current = kind.state ? await statesOf(tx, group) : new Map<string, State>();
	const own = ownTable(kind, group, known.createdAt, there, now);
	const states = kind.state ? statesTable(context, group, current, now) : [];
	const raw = new Map([[kind.file as string, csv(own)], ...(kind.state && states.length > 1 ? [[kind.state.file as string, csv(states)] as const] : [])]);
	const read = readBundle(raw, known);
	const checked = checkBundle(read.bundle, known);
	const problems = [...read.problems, ...checked.problems].filter(({ file }) => raw.has(file));
	const bad = problemsById(problems, own, states);
	const keep = (field: string) => (row: Row) => !bad.has(String(row.fields[field]));
	const good = new Map<BundleFile, readonly Row[]>();
	for (const [file, rows] of checked.good) good.set(file, rows.filter(keep(file === "deal_versions.csv" ? "deal_id" : "id")));
	const { deals } = await writeRows(tx, good, read.bundle, null, now, () => undefined);
	if (deals.size) await keepQuiet(tx, deals);
	for (const id of deals) touched.add(id);
	for (const { at, id, row } of group) {
		const found = bad.get(id) ?? (kind.state && !there.has(id) && !("stage" in row) ? [{ field: "stage", reason: "a new deal needs a stage" }] : null);
		fates.set(at, found ? { id, fate: "refused", problems: found } : { id, fate: there.has(id) ? "updated" : "created", problems: [] });
	}
}

type Table = readonly (readonly string[])[];
// All is quoted, so that no text in it is taken for what parts the cells.
const csv = (table: Table) =>
	new TextEncoder().encode(
		stringify(
			table.map((row) => [...row]),
			{ quoted: true },
		),
	);

/** The ids of rows by the line each begins on, as the reader counts them: a text of several lines moves the rows below it. */
const idsByLine = (table: Table) => new Map((table.length ? readRecords(csv(table)).rows : []).map(({ line, cells }) => [line, cells[0] ?? ""]));

const textOf = (given: Pushed[string] | undefined): string =>
	given === null || given === undefined ? "" : Array.isArray(given) ? given.join("|") : String(given);

/** The rows themselves: what is given of them, and of a deal when it was created. */
function ownTable(kind: PushKind, group: readonly Numbered[], createdAt: ReadonlyMap<string, number>, there: ReadonlySet<string>, now: Date): Table {
	const given = kind.columns.filter((column) => group[0] && apiName(column) in group[0].row);
	const fill = kind.state && !given.includes("created_at");
	const wanted = group.filter(({ id, row }) => !kind.state || there.has(id) || "stage" in row);
	return [
		["id", ...given, ...(fill ? ["created_at"] : [])],
		...wanted.map(({ id, row }) => [
			id,
			...given.map((column) => textOf(row[apiName(column)])),
			...(fill ? [new Date(createdAt.get(id) ?? now.getTime()).toISOString()] : []),
		]),
	];
}

type State = Readonly<Record<string, unknown>>;

/** The states in force of deals, by their columns. */
async function statesOf(tx: Tx, group: readonly Numbered[]): Promise<Map<string, State>> {
	const ids = group.map(({ id }) => id);
	const rows = await tx
		.select()
		.from(dealVersions)
		.where(sql`${isOneOf(dealVersions.dealId, ids)} and ${dealVersions.validTo} is null`);
	return new Map(rows.map((row) => [row.dealId, row as State]));
}

const STATE = PUSHED.find(({ state }) => state)?.state?.columns ?? [];

/** Versions of the deals whose state is given and differs from the one in force. */
function statesTable({ organisation }: Context, group: readonly Numbered[], current: ReadonlyMap<string, State>, now: Date): Table {
	const { base } = organisation.company.rules.rates;
	const rows = group.flatMap(({ id, row }) => {
		const before = current.get(id);
		const after = Object.fromEntries(
			STATE.map((column) => [column, apiName(column) in row ? (row[apiName(column)] ?? null) : (before?.[apiName(column)] ?? null)]),
		);
		const same = before && STATE.every((column) => textOf(after[column] as Pushed[string]) === textOf(before[apiName(column)] as Pushed[string]));
		if (same || !STATE.some((column) => apiName(column) in row) || (!before && !after.stage)) return [];
		const amount = typeof after.amount === "number" ? formatAmount(after.amount, String(after.currency ?? base)) : textOf(after.amount as Pushed[string]);
		return [[id, textOf(row.at) || now.toISOString(), ...STATE.map((column) => (column === "amount" ? amount : textOf(after[column] as Pushed[string])))]];
	});
	return [["deal_id", "at", ...STATE], ...rows];
}

/** What is wrong, by the id of its row; of what a file lacks as a whole, by all of its rows. */
function problemsById(problems: readonly Problem[], own: Table, states: Table): Map<string, { field: string | null; reason: string }[]> {
	const found = new Map<string, { field: string | null; reason: string }[]>();
	const lines = { own: idsByLine(own), states: idsByLine(states) };
	for (const { file, line, column, reason } of problems) {
		const [table, byLine] = file === "deal_versions.csv" ? [states, lines.states] : [own, lines.own];
		const ids = line === null || line < 2 ? table.slice(1).map(([id]) => id ?? "") : [byLine.get(line) ?? ""];
		for (const id of ids) found.set(id, [...(found.get(id) ?? []), { field: column && apiName(column), reason }]);
	}
	return found;
}

/** Which ids rows name, by the file that lists them. */
function namedIn(kind: PushKind, group: readonly Numbered[]): NamedIds {
	const named = new Map<BundleFile, Set<string>>([[kind.file, new Set(group.map(({ id }) => id))]]);
	const fields = SPECS.find(({ file }) => file === kind.file)?.fields ?? [];
	for (const { name, refers } of fields) {
		if (!refers) continue;
		const ids = named.get(refers) ?? new Set<string>();
		named.set(refers, ids);
		for (const { row } of group) for (const id of [row[apiName(name)] ?? []].flat()) if (typeof id === "string") ids.add(id.trim());
	}
	return named;
}

/** One row, as a call of its own answers: what is wrong with it is a fault. @throws Fault 422 */
export async function pushOne(context: Context, kind: string, id: string, row: Pushed): Promise<Fate> {
	if (row.id !== undefined && row.id !== id) throw new Fault(422, "Two ids", `The address names ${id}, and the row ${textOf(row.id)}.`);
	const [fate] = await pushRows(context, { kind, rows: [{ ...row, id }] });
	const [problem] = fate?.problems ?? [];
	if (fate?.fate === "refused")
		throw new Fault(422, "Not written", [problem?.field, problem?.reason ?? "it can’t be read"].filter(Boolean).join(": "), { problems: fate.problems });
	return fate as Fate;
}
