"use client";
import type { Column, Kind } from "@/formats/columns";
import { instantWords } from "@/ui/format";

interface Shown {
	readonly name: string;
	readonly about: string;
	readonly columns: readonly Column[];
}

const KIND_WORDS: Readonly<Record<Kind, string>> = {
	text: "text",
	integer: "whole number",
	decimal: "number",
	day: "day",
	instant: "instant, UTC",
	flag: "true or false",
};

/** The tables that other programs read, with their columns, and the ways to them. */
export function TablesPanel({ tables, kept, ops, zone }: { tables: readonly Shown[]; kept: string | null; ops: boolean; zone: string }) {
	return (
		<section className="panel">
			<h2>Tables</h2>
			<p className="second">
				What the program knows, as tables that other programs read: all rows of the deals you reach, as seen today. Another day is asked for by{" "}
				<code>as_of</code>, as in <code>/api/v1/tables/deals?as=csv&amp;as_of=2026-11-02</code>; a program sends a key of the area <i>tables</i>.
			</p>
			{tables.map(({ name, about, columns }) => (
				<article key={name} className="outside-table" aria-labelledby={`table-${name}`}>
					<div className="outside-head">
						<h3 id={`table-${name}`}>{name}</h3>
						<a href={`/api/v1/tables/${name}?as=csv`} download aria-label={`CSV of ${name}`}>
							CSV
						</a>
						<a href={`/api/v1/tables/${name}?as=parquet`} download aria-label={`Parquet of ${name}`}>
							Parquet
						</a>
					</div>
					<p className="mb-1">{about}</p>
					<details>
						<summary>{columns.length} columns</summary>
						<dl className="outside-columns">
							{columns.map((column) => (
								<div key={column.name}>
									<dt>
										<code>{column.name}</code>
									</dt>
									<dd>
										{KIND_WORDS[column.kind]}
										{column.about && <span className="second">; {column.about}</span>}
									</dd>
								</div>
							))}
						</dl>
					</details>
				</article>
			))}
			{ops && (
				<>
					<h3>In the database</h3>
					<p className="mb-0">
						The same tables are views of the schema <code>porch_lamp_read</code>, which the role <code>porch_lamp_reader</code> reads and nothing else:{" "}
						<code>npm run reader</code> says the address. They show everyone’s deals, and follow what is written within a minute;{" "}
						{kept ? `they were last written ${instantWords(kept, zone)}.` : "they haven’t been written yet."}
					</p>
				</>
			)}
		</section>
	);
}
