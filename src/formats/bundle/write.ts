import { Zip, ZipDeflate, ZipPassThrough } from "fflate";
import { safeText, writeCsv } from "../csv";
import { CONTENTS } from "./contents";
import { writeField } from "./fields";
import type { RawFiles, Settings, Value } from "./model";
import { type BundleFile, SETTINGS_FILE, SPECS } from "./spec";

export interface OutRow {
	readonly fields: Readonly<Record<string, Value>>;
	readonly extras?: Readonly<Record<string, string>> | undefined;
}

/** The files of a bundle as bytes: required ones always, the others where they have rows. */
export function writeBundle(rows: ReadonlyMap<BundleFile, readonly OutRow[]>, settings: Settings, baseCurrency: string): RawFiles {
	const out = new Map<string, Uint8Array>();
	const encoder = new TextEncoder();
	for (const spec of SPECS) {
		const own = rows.get(spec.file) ?? [];
		if (!own.length && !spec.required) continue;
		const fields = spec.fields.filter(
			(field) => !field.extra || own.some((row) => row.fields[field.name] != null && row.fields[field.name] !== field.standard),
		);
		const extras = [...new Set(own.flatMap((row) => Object.keys(row.extras ?? {})))].sort();
		const lines = own.map((row) => {
			const currency = (row.fields.currency as string | null) || baseCurrency;
			return [
				...fields.map((field) => writeField(field, row.fields[field.name] ?? null, currency)),
				...extras.map((name) => safeText(row.extras?.[name] ?? "")),
			];
		});
		out.set(spec.file, encoder.encode(writeCsv([...fields.map((field) => field.name), ...extras.map(safeText)], lines)));
	}
	out.set(SETTINGS_FILE, encoder.encode(`${JSON.stringify(settings, null, 2)}\n`));
	return out;
}

/** A zip of files as it is made, one file in memory at a time; the same bytes for the same files, since entries carry a fixed date. */
export function zipStream(files: AsyncIterable<readonly [name: string, bytes: Uint8Array]>): ReadableStream<Uint8Array> {
	const each = files[Symbol.asyncIterator]();
	const zip = new Zip();
	return new ReadableStream<Uint8Array>({
		start(controller) {
			zip.ondata = (error, part, final) => {
				if (error) controller.error(error);
				else controller.enqueue(part);
				if (final) controller.close();
			};
		},
		async pull() {
			const { value, done } = await each.next();
			if (done) return zip.end();
			const [name, bytes] = value;
			// What files hold is mostly packed already.
			const entry = name.startsWith(CONTENTS) ? new ZipPassThrough(name) : new ZipDeflate(name, { level: 6 });
			entry.mtime = new Date(2026, 0, 1);
			zip.add(entry);
			entry.push(bytes, true);
		},
	});
}
