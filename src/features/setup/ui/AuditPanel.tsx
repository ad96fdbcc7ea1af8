"use client";
import Link from "next/link";
import { parseAsString, useQueryStates } from "nuqs";
import { useState, useTransition } from "react";
import { Button, Form } from "react-bootstrap";
import { byCount } from "@/core/words/grammar";
import { grouped, instantWords } from "@/ui/format";
import { TableExport } from "@/ui/parts/ExportMenu";
import { MoreRows } from "@/ui/parts/MoreRows";
import { DataTable } from "@/ui/parts/table/DataTable";
import type { AuditView } from "../server/readAudit";

type Asked = Readonly<Partial<Record<"text" | "kind" | "by" | "of", string | undefined>>>;

/** Who changed what, and when; the newest first: all of it, or one kind, one person's, what was done to one thing. */
export function AuditPanel({ view, asked, zone }: { view: AuditView; asked: Asked; zone: string }) {
	const { entries, count } = view;
	const [waiting, start] = useTransition();
	const [, look] = useQueryStates(
		{ text: parseAsString, kind: parseAsString, by: parseAsString, of: parseAsString, limit: parseAsString },
		{ shallow: false, history: "push", startTransition: start },
	);
	const change = (next: Asked) => void look({ ...Object.fromEntries(Object.entries(next).map(([name, value]) => [name, value || null])), limit: null });
	const narrowed = Object.values(asked).some(Boolean);
	return (
		<div aria-busy={waiting} className={waiting ? "waiting" : undefined}>
			<div className="d-flex gap-2 align-items-center flex-wrap mb-2 no-print">
				<Words key={asked.text ?? ""} text={asked.text ?? ""} onLook={(text) => change({ text })} />
				<Form.Select
					size="sm"
					className="audit-choice"
					aria-label="Audit entries"
					value={asked.kind ?? ""}
					onChange={(event) => change({ kind: event.target.value })}
				>
					<option value="">All kinds</option>
					{view.kinds.map(({ key, count: n }) => (
						<option key={key} value={key}>{`${key} (${grouped(n)})`}</option>
					))}
				</Form.Select>
				<Form.Select size="sm" className="audit-choice" aria-label="Person" value={asked.by ?? ""} onChange={(event) => change({ by: event.target.value })}>
					<option value="">Anyone</option>
					{view.people.map(({ id, name, count: n }) => (
						<option key={id} value={id}>{`${name} (${grouped(n)})`}</option>
					))}
				</Form.Select>
				{narrowed && (
					<Button size="sm" variant="link" className="p-0" onClick={() => change({ text: "", kind: "", by: "", of: "" })}>
						Clear filters
					</Button>
				)}
				<TableExport table="audit" />
			</div>
			<p className="small-text second mb-2" aria-live="polite">
				{byCount(count, "1 entry", `${grouped(count)} entries`)}
				{view.of && (
					<>
						{" of "}
						<b>{view.of.name}</b>
					</>
				)}
			</p>
			<Entries entries={entries} of={asked.of} narrowed={narrowed} zone={zone} onOf={(of) => change({ of })} />
			<MoreRows shown={entries.length} count={count} order="Newest first" />
		</div>
	);
}

interface EntriesProps {
	readonly entries: AuditView["entries"];
	/** the one thing that is looked at; its entries needn’t lead to it */
	readonly of: string | undefined;
	readonly narrowed: boolean;
	readonly zone: string;
	readonly onOf: (subject: string) => void;
}

function Entries({ entries, of, narrowed, zone, onOf }: EntriesProps) {
	return (
		<DataTable
			of="Audit entries"
			tableClass=""
			rows={entries}
			rowKey={({ id }) => String(id)}
			empty={narrowed ? "No entries of this kind." : "No entries yet."}
			columns={[
				{ key: "at", label: "When", className: "text-nowrap second", cell: ({ at }) => instantWords(at, zone) },
				{ key: "who", label: "Who", className: "text-nowrap", cell: ({ who }) => who },
				{ key: "what", label: "What", className: "audit-action", cell: ({ action }) => action },
				{
					key: "thing",
					label: "Thing",
					className: "audit-what",
					cell: ({ deal, about, detail, subject }) => (
						<>
							{deal ? <Link href={`/deals/${encodeURIComponent(deal.id)}`}>{deal.name}</Link> : about}{" "}
							<span className="small-text second audit-detail">{detail}</span>{" "}
							{subject && subject !== of && (
								<Button
									size="sm"
									variant="link"
									className="p-0 tiny align-baseline no-print text-nowrap"
									aria-label={`All details: ${deal?.name ?? about ?? subject}`}
									onClick={() => onOf(subject)}
								>
									All details
								</Button>
							)}
						</>
					),
				},
			]}
		/>
	);
}

/** Looks for words among all that was ever done. */
function Words({ text, onLook }: { text: string; onLook: (text: string) => void }) {
	const [words, setWords] = useState(text);
	return (
		<Form
			className="d-flex gap-2"
			onSubmit={(event) => {
				event.preventDefault();
				onLook(words.trim());
			}}
		>
			<Form.Control
				size="sm"
				type="search"
				className="w-auto"
				aria-label="Search in entries"
				placeholder="Search in entries"
				maxLength={100}
				value={words}
				onChange={(event) => setWords(event.target.value)}
			/>
			<Button size="sm" type="submit" variant="outline-primary">
				Search
			</Button>
		</Form>
	);
}
