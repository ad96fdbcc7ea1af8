import { byCount } from "@/core/words/grammar";
import { makeZone, type Zone } from "../../core/time/zone";
import { CsvFault, plainText, readCsv } from "../csv";
import { CONTENTS } from "./contents";
import { readField, refused } from "./fields";
import type { Bundle, Problem, RawFiles, Row, Value } from "./model";
import { readSettings } from "./settings";
import { type BundleFile, type FieldSpec, type FileSpec, nameField, SETTINGS_FILE, SPECS } from "./spec";

/** What the reader falls back on where the bundle itself doesn't say. */
export interface ReadDefaults {
	readonly timeZone: string;
	readonly baseCurrency: string;
}

export interface ReadResult {
	readonly bundle: Bundle;
	readonly problems: Problem[];
	/** rows read, good or bad, by file */
	readonly counts: Record<string, number>;
}

/**
 * Reads all files of a bundle field by field. Nothing is thrown for bad input: each fault is a problem
 * with its place, and rows with faults are left out of the bundle.
 */
export function readBundle(raw: RawFiles, defaults: ReadDefaults, onFile: (file: string) => void = () => undefined): ReadResult {
	const { settings, problems } = readSettings(raw.get(SETTINGS_FILE));
	const zone = makeZone(settings.timeZone ?? defaults.timeZone);
	const baseCurrency = settings.baseCurrency ?? defaults.baseCurrency;
	const files = new Map<BundleFile, Row[]>();
	const damaged = new Map<BundleFile, Map<string, number>>();
	const counts: Record<string, number> = {};
	const unknownColumns: Record<string, string[]> = {};

	for (const name of raw.keys()) {
		if (name !== SETTINGS_FILE && !name.startsWith(CONTENTS) && !SPECS.some((spec) => spec.file === name)) {
			problems.push({ file: name, line: null, column: null, value: null, reason: "the bundle has no such file; check its name or leave it out" });
		}
	}
	const missing = (file: string) => problems.push({ file, line: null, column: null, value: null, reason: "this file is missing, and a bundle needs it" });
	if (!raw.has(SETTINGS_FILE)) missing(SETTINGS_FILE);
	for (const spec of SPECS) {
		const bytes = raw.get(spec.file);
		if (!bytes) {
			if (spec.required) missing(spec.file);
			continue;
		}
		onFile(spec.file);
		const read = readFile(spec, bytes, zone, baseCurrency);
		files.set(spec.file, read.rows);
		damaged.set(spec.file, read.damaged);
		counts[spec.file] = read.count;
		for (const problem of read.problems) problems.push(problem);
		if (read.unknown.length) unknownColumns[spec.file] = read.unknown;
	}
	return { bundle: { files, settings, damaged, unknownColumns }, problems, counts };
}

/** so much is read of one file; a company of forty thousand deals has a fifth of it */
const BOUNDS = { rows: 2_000_000, columns: 500 };
/** after so many rows that can't be read, a file isn't read on */
const MOST_DAMAGED = 20_000;

/** Whether a file needs a column: what names its rows, and what a row can't be without. */
export const compulsory = (spec: FileSpec, field: FieldSpec): boolean => (spec.key.includes(field.name) && !field.extra) || (field.needed && !field.blankAlone);

/** The header's names as the format has them, whatever their case and whether they have spaces in them. */
function namesIn(spec: FileSpec, header: readonly string[]): string[] {
	const known = new Map(spec.fields.map((field) => [field.name, field.name]));
	return header.map(
		(name) =>
			known.get(name) ??
			known.get(
				name
					.trim()
					.toLowerCase()
					.replace(/[\s-]+/g, "_"),
			) ??
			name,
	);
}

interface FileRead {
	rows: Row[];
	damaged: Map<string, number>;
	problems: Problem[];
	unknown: string[];
	count: number;
}

function readFile(spec: FileSpec, bytes: Uint8Array, zone: Zone, baseCurrency: string): FileRead {
	const result: FileRead = { rows: [], damaged: new Map(), problems: [], unknown: [], count: 0 };
	const say = (line: number | null, column: string | null, value: string | null, reason: string) =>
		result.problems.push({ file: spec.file, line, column, value: value === null ? null : value.slice(0, 200), reason });
	let table: ReturnType<typeof readCsv>;
	try {
		table = readCsv(bytes, BOUNDS);
	} catch (error) {
		if (!(error instanceof CsvFault)) throw error;
		say(error.line, null, null, error.message);
		return result;
	}
	const { records } = table;
	const header = namesIn(spec, table.header);
	result.count = records.length;
	if (!isHeaderSound(spec, header, say)) return result;

	const known = new Set(spec.fields.map((field) => field.name));
	result.unknown = header.filter((name) => name && !known.has(name));
	const place = new Map(header.map((name, i) => [name, i]));
	const currencyAt = place.get("currency");

	const naming = nameField(spec);
	let faulty = 0;
	for (const { line, cells } of records) {
		const currency = (currencyAt === undefined ? "" : cells[currencyAt]?.trim()) || baseCurrency;
		const fields =
			cells.length === header.length ? readRow(spec, place, cells, { zone, currency }, (column, cell, reason) => say(line, column, cell, reason)) : null;
		if (cells.length !== header.length)
			say(line, null, cells.join(",").slice(0, 200), `this row doesn’t have as many fields as the header, which has ${header.length}`);
		if (fields) result.rows.push({ line, fields, extras: extrasOf(result.unknown, place, cells) });
		else {
			const name = naming && cells[place.get(naming) ?? -1]?.trim();
			if (name) result.damaged.set(name, line);
			if (++faulty > MOST_DAMAGED) break;
		}
	}
	if (faulty > MOST_DAMAGED) say(1, null, null, `more than ${MOST_DAMAGED.toLocaleString("en")} rows of this file can’t be read; the rest wasn’t checked`);
	return result;
}

/** Says which columns are missing or there twice; true where none is. */
function isHeaderSound(spec: FileSpec, header: readonly string[], say: (line: number, column: string, value: string | null, reason: string) => void): boolean {
	const missing = spec.fields.filter((field) => compulsory(spec, field) && !header.includes(field.name));
	const twice = header.find((name, i) => name && header.indexOf(name) !== i);
	if (twice) say(1, twice, null, "this column is there twice");
	for (const field of missing) {
		const hint = byCount(header.length, "; the header reads as one column, so the delimiter may be wrong (use a comma)", "");
		say(1, field.name, header.join(",").slice(0, 200), `the column ${field.name} is missing${hint}`);
	}
	return !missing.length && !twice;
}

/** A row’s fields; null where one can’t be read, with what is wrong said. */
function readRow(
	spec: FileSpec,
	place: ReadonlyMap<string, number>,
	cells: readonly string[],
	context: { readonly zone: Zone; readonly currency: string },
	say: (column: string, cell: string, reason: string) => void,
): Record<string, Value> | null {
	let sound = true;
	const fields: Record<string, Value> = {};
	const alone = spec.fields.every((field) => spec.key.includes(field.name) || field.extra || !cells[place.get(field.name) ?? -1]?.trim());
	for (const field of spec.fields) {
		const at = place.get(field.name);
		if (at === undefined) continue;
		const cell = cells[at] as string;
		const value = field.blankAlone && alone ? null : readField(field, cell, context);
		if (refused(value)) {
			sound = false;
			say(field.name, cell, value.reason);
		} else fields[field.name] = value;
	}
	return sound ? fields : null;
}

/** What stands in columns that nobody knows. */
function extrasOf(unknown: readonly string[], place: ReadonlyMap<string, number>, cells: readonly string[]): Record<string, string> {
	const extras: Record<string, string> = {};
	for (const name of unknown) {
		const cell = cells[place.get(name) as number];
		if (cell) extras[plainText(name)] = plainText(cell);
	}
	return extras;
}
