import { ByteWriter, ParquetWriter, type schemaFromColumnData } from "hyparquet-writer";
import type { Column, Kind, Value } from "./columns";

type Element = ReturnType<typeof schemaFromColumnData>[number];

const TYPES: Readonly<Record<Kind, Partial<Element>>> = {
	text: { type: "BYTE_ARRAY", converted_type: "UTF8" },
	integer: { type: "INT32" },
	decimal: { type: "DOUBLE" },
	day: { type: "INT32", converted_type: "DATE" },
	instant: { type: "INT64", converted_type: "TIMESTAMP_MILLIS" },
	flag: { type: "BOOLEAN" },
};
const DAY = 86_400_000;

/** rows are gathered up to so many before they are packed */
const GROUP = 50_000;

/** A table as an Apache Parquet file, a group of rows after the other; nothing of it is kept but the present group. */
export async function* parquetOf(columns: readonly Column[], parts: AsyncIterable<readonly (readonly Value[])[]>): AsyncGenerator<Uint8Array> {
	const out = new ByteWriter();
	const schema = [
		{ name: "root", num_children: columns.length },
		...columns.map(({ name, kind }) => ({ name, repetition_type: "OPTIONAL" as const, ...TYPES[kind] })),
	] as Element[];
	const writer = new ParquetWriter({ writer: out, schema, createdBy: "Porch Lamp" });
	// What has been taken away stays counted: places in the file are reckoned from its beginning.
	const taken = () => {
		const bytes = out.getBytes().slice();
		out.index = 0;
		return bytes;
	};
	let rows: (readonly Value[])[] = [];
	const write = () => {
		const columnData = columns.map(({ name, kind }, i) => ({ name, data: rows.map((row) => typed(row[i] ?? null, kind)) }));
		rows = [];
		return writer.write({ columnData, rowGroupSize: GROUP });
	};
	for await (const part of parts) {
		rows.push(...part);
		if (rows.length < GROUP) continue;
		await write();
		yield taken();
	}
	if (rows.length) await write();
	await writer.finish();
	yield taken();
}

const typed = (value: Value, kind: Kind): unknown => {
	if (value === null) return undefined;
	return kind === "day" ? new Date((value as number) * DAY) : kind === "instant" ? new Date(value as number) : value;
};
