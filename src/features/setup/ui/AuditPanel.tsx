"use client";
import Link from "next/link";
import { parseAsString, useQueryState } from "nuqs";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { instantWords } from "@/ui/format";
import { Heads } from "@/ui/parts/Heads";
import { MoreRows } from "@/ui/parts/MoreRows";
import { Scrolls } from "@/ui/parts/Scrolls";
import { TakeAway } from "@/ui/parts/TakeAway";
import type { AuditView } from "../server/readAudit";

/** Who changed what, and when; the newest first. */
export function AuditPanel({ view: { entries, count }, text, zone }: { view: AuditView; text: string; zone: string }) {
	return (
		<>
			<Look text={text} />
			{!entries.length && <p className="panel second">{text ? "Nothing of this kind was done." : "Nothing was changed yet."}</p>}
			<Scrolls of="What was done" className="panel p-0">
				<table className="table">
					<Heads of={["When", "Who", "What", "Of what"]} />
					<tbody>
						{entries.map((entry) => (
							<tr key={entry.id}>
								<td className="text-nowrap second">{instantWords(entry.at, zone)}</td>
								<td className="text-nowrap">{entry.who}</td>
								<td className="text-nowrap">{entry.action}</td>
								<td>
									{entry.deal && <Link href={`/deals/${encodeURIComponent(entry.deal.id)}`}>{entry.deal.name}</Link>}
									{entry.about} <span className="small-text second audit-detail">{entry.detail}</span>
								</td>
							</tr>
						))}
					</tbody>
				</table>
			</Scrolls>
			<MoreRows shown={entries.length} count={count} order="Newest first" />
		</>
	);
}

/** Looks for words among all that was ever done. */
function Look({ text }: { text: string }) {
	const [, setText] = useQueryState("text", parseAsString.withOptions({ shallow: false, history: "push" }));
	const [words, setWords] = useState(text);
	return (
		<Form
			className="d-flex gap-2 align-items-center flex-wrap mb-2 no-print"
			onSubmit={(event) => {
				event.preventDefault();
				void setText(words.trim() || null);
			}}
		>
			<Form.Control
				size="sm"
				type="search"
				className="w-auto"
				aria-label="Look for what, by whom, of what"
				placeholder="What, by whom, of what"
				maxLength={100}
				value={words}
				onChange={(event) => setWords(event.target.value)}
			/>
			<Button size="sm" type="submit" variant="outline-primary">
				Look
			</Button>
			<TakeAway table="audit" />
		</Form>
	);
}
