import { listed } from "@/core/words/grammar";
import { checkAttachments } from "./checkAttachments";
import { checkPeople, checkReporting } from "./checkPeople";
import type { Checked, Known, Say } from "./checkShapes";
import { withMerged } from "./merged";
import type { Bundle, Problem, Row } from "./model";
import { type BundleFile, type FileSpec, nameField, SPECS } from "./spec";

/**
 * Checks what a single field can't show: names given twice, references to what isn't there, teams in a
 * circle, amounts without a rate. Files are taken in the order of SPECS, so that a row which refers to a
 * left-out row is left out too.
 */
export function checkBundle(bundle: Bundle, known: Known): Checked {
	const problems: Problem[] = [];
	const good = new Map<BundleFile, readonly Row[]>();
	const named = new Map<BundleFile, Set<string>>();
	const damaged = new Map([...bundle.damaged].map(([file, names]) => [file, new Map(names)]));
	const stages = stageNames(bundle, known);
	const base = bundle.settings.baseCurrency ?? known.baseCurrency;
	const rated = new Set([...known.rateCurrencies, base]);
	for (const row of bundle.files.get("rates.csv") ?? []) rated.add(String(row.fields.currency));

	const created = new Map(known.createdAt);
	for (const { fields } of bundle.files.get("deals.csv") ?? []) created.set(String(fields.id), Date.parse(String(fields.created_at)));
	const latest = latestOf(bundle, known);

	for (const spec of SPECS) {
		const given = bundle.files.get(spec.file);
		if (!given) continue;
		const rows = withStageNames(spec, withMerged(spec, given, known.merged), stages);
		const bad = new Set<number>();
		const say: Say = (row, column, value, reason, restsOn) => {
			bad.add(row.line);
			const shown = value === null ? null : String(value).slice(0, 200);
			problems.push({ file: spec.file, line: row.line, column, value: shown, reason, ...(restsOn ? { restsOn } : {}) });
		};
		checkKeys(spec, rows, say);
		named.set(spec.file, namesIn(spec, rows, bad, known));
		checkReferences(spec, rows, named, damaged, known, say);
		if (spec.file === "people.csv") checkPeople(rows, known, say);
		if (spec.file === "stages.csv") checkStages(rows, known, say);
		if (spec.file === "contacts.csv") checkReporting(rows, say);
		checkCurrencies(spec, rows, rated, base, say);
		checkInstants(spec, rows, latest, say);
		if (spec.file === "deal_versions.csv") checkCreation(rows, created, say);
		if (spec.file === "attachments.csv") checkAttachments(rows, known.contents ?? new Set(), say);
		if (spec.file === "targets.csv") {
			for (const row of rows) {
				if (String(row.fields.period_end) < String(row.fields.period_start)) say(row, "period_end", row.fields.period_end, "the period ends before it starts");
			}
		}
		const naming = nameField(spec);
		if (naming)
			for (const row of rows) if (bad.has(row.line)) damaged.set(spec.file, (damaged.get(spec.file) ?? new Map()).set(String(row.fields[naming]), row.line));
		const kept = rows.filter((row) => !bad.has(row.line));
		good.set(spec.file, kept);
		named.set(spec.file, namesIn(spec, kept, new Set(), known));
	}
	return { problems, good };
}

/** A stage's name as it is compared: whatever its case, and however many spaces. */
const folded = (name: string) => name.trim().replace(/\s+/g, " ").toLowerCase();

/** The stages' names as they are written where they are made: those that are there already before those of the bundle. */
function stageNames(bundle: Bundle, known: Known): ReadonlyMap<string, string> {
	const names = new Map<string, string>();
	for (const name of known.ids.get("stages.csv") ?? []) names.set(folded(name), name);
	for (const { fields } of bundle.files.get("stages.csv") ?? [])
		if (!names.has(folded(String(fields.name)))) names.set(folded(String(fields.name)), String(fields.name).trim());
	return names;
}

/** Rows that name a stage by the name as it is written where it was made. */
function withStageNames(spec: FileSpec, rows: readonly Row[], stages: ReadonlyMap<string, string>): readonly Row[] {
	const naming = spec.file === "stages.csv" ? "name" : spec.fields.find((field) => field.refers === "stages.csv")?.name;
	if (!naming) return rows;
	return rows.map((row) => {
		const name = row.fields[naming];
		const written = typeof name === "string" ? stages.get(folded(name)) : undefined;
		return written === undefined || written === name ? row : { ...row, fields: { ...row.fields, [naming]: written } };
	});
}

function namesIn(spec: FileSpec, rows: readonly Row[], bad: ReadonlySet<number>, known: Known): Set<string> {
	const field = nameField(spec);
	const names = new Set(known.ids.get(spec.file) ?? []);
	if (field) for (const row of rows) if (!bad.has(row.line)) names.add(String(row.fields[field]));
	return names;
}

function checkKeys(spec: FileSpec, rows: readonly Row[], say: Say): void {
	if (!spec.key.length) return;
	const seen = new Map<string, number>();
	for (const row of rows) {
		const values = spec.key.map((name) => String(row.fields[name]));
		const key = values.join("\u0000");
		const first = seen.get(key);
		if (first === undefined) seen.set(key, row.line);
		else if (spec.file === "deal_versions.csv") say(row, "at", values[1], `two versions of ${values[0]} at one instant: line ${first} has it too`);
		else say(row, spec.key.at(-1) ?? null, values.join(" · "), `the same ${listed(spec.key)} as in line ${first}`);
	}
}

function checkReferences(
	spec: FileSpec,
	rows: readonly Row[],
	named: ReadonlyMap<BundleFile, Set<string>>,
	damaged: ReadonlyMap<BundleFile, ReadonlyMap<string, number>>,
	known: Known,
	say: Say,
): void {
	for (const field of spec.fields) {
		if (!field.refers) continue;
		const target = named.get(field.refers) ?? known.ids.get(field.refers) ?? new Set<string>();
		const what = field.refers === "stages.csv" ? "no stage has this name" : `${field.refers} has no such id`;
		for (const row of rows) {
			const value = row.fields[field.name];
			const ids = Array.isArray(value) ? (value as string[]) : value === null || value === undefined ? [] : [String(value)];
			for (const id of ids) {
				if (target.has(id)) continue;
				const line = damaged.get(field.refers)?.get(id);
				if (line === undefined) say(row, field.name, id, what);
				else say(row, field.name, id, `its row in ${field.refers} has a problem of its own`, `${field.refers} ${line}`);
			}
		}
	}
}

function checkStages(rows: readonly Row[], known: Known, say: Say): void {
	const positions = new Map(known.stagePositions);
	const own = new Set(rows.map((row) => row.fields.name));
	for (const row of rows) {
		const at = positions.get(row.fields.position as number);
		if (at !== undefined && at !== row.fields.name && !own.has(at))
			say(row, "position", row.fields.position, `the stage ${at} stands at this position already`);
	}
	for (const row of rows) {
		if (row.fields.kind === "open" && (row.fields.usual_days ?? null) === null) say(row, "usual_days", null, "usual_days is blank, and an open stage needs it");
	}
	const seen = new Map<unknown, unknown>();
	for (const row of rows) {
		if (seen.has(row.fields.position)) say(row, "position", row.fields.position, `the stage ${seen.get(row.fields.position)} has this position too`);
		else seen.set(row.fields.position, row.fields.name);
	}
	if (rows[0] && !rows.some((row) => row.fields.kind === "open")) say(rows[0], "kind", rows[0].fields.kind, "at least one stage must be open");
}

/** Columns that say when something has happened, by file; of activities and tasks only where it is done. */
const HAPPENED: Partial<Record<BundleFile, readonly string[]>> = {
	"deals.csv": ["created_at"],
	"deal_versions.csv": ["at"],
	"activities.csv": ["at"],
	"answers.csv": ["at"],
	"notes.csv": ["at"],
	"tasks.csv": ["created_at", "done_at"],
};

function checkInstants(spec: FileSpec, rows: readonly Row[], latest: number, say: Say): void {
	for (const column of HAPPENED[spec.file] ?? []) {
		for (const row of rows) {
			const at = row.fields[column];
			if (typeof at !== "string" || Date.parse(at) <= latest) continue;
			if (spec.file === "activities.csv" && row.fields.state !== "done") continue;
			say(row, column, at, "this is in the future: nothing can have happened after today");
		}
	}
}

const DAY = 86_400_000;

/** What a version says can't have been so before its deal was there; on the same day the hours may be rough. */
function checkCreation(rows: readonly Row[], created: ReadonlyMap<string, number>, say: Say): void {
	for (const row of rows) {
		const [at, since] = [Date.parse(String(row.fields.at)), created.get(String(row.fields.deal_id))];
		if (since !== undefined && at < since - DAY) say(row, "at", row.fields.at, `this is before its deal was created, at ${new Date(since).toISOString()}`);
	}
}

/** The end of today: of the day that the bundle's own settings hold, where that is later. */
function latestOf({ settings }: Bundle, { latest }: Known): number {
	const held = settings.today ? Date.parse(settings.today) : Number.NaN;
	// Whatever the time zone, that day is over two days after its beginning in UTC.
	return Number.isNaN(held) ? latest : Math.max(latest, held + 2 * DAY);
}

function checkCurrencies(spec: FileSpec, rows: readonly Row[], rated: ReadonlySet<string>, base: string, say: Say): void {
	if (spec.file === "rates.csv") return;
	if (!spec.fields.some((field) => field.name === "currency")) return;
	for (const row of rows) {
		const code = row.fields.currency;
		if (typeof code === "string" && !rated.has(code)) say(row, "currency", code, `there is no rate from ${code} to ${base}; add it to rates.csv`);
	}
}
