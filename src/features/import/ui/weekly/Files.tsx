"use client";
import { useState } from "react";
import { Alert, Button } from "react-bootstrap";
import { byCount, plural } from "@/core/words/grammar";
import { longDate } from "@/ui/format";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { WeeklyList } from "../../server/weekly/missing";
import type { TakingOut } from "../../server/weekly/takeOut";

/** The files that were taken in; each can be taken out again, once it was said what that undoes. */
export function Files({ list }: { list: WeeklyList }) {
	const [asked, setAsked] = useState<{ id: string; effect: TakingOut } | null>(null);
	const [error, setError] = useState<string | null>(null);
	const run = useRun();
	const act = useAct();
	const ask = async (id: string) => {
		setError(null);
		const answer = await run("import.previewTakeOut", { fileId: id });
		if (answer.ok) setAsked({ id, effect: answer.result });
		else setError(answer.detail);
	};
	const takeOut = async ({ id, effect }: { id: string; effect: TakingOut }) => {
		if (await act(run("import.takeOutWeekly", { fileId: id }), `Import of ${effect.name} undone.`)) setAsked(null);
	};
	return (
		<section className="panel" aria-label="Imported files">
			<h2>Imported files</h2>
			{!list.files.length && <p className="second mb-0">No files yet. From the second file on, every view of the past works.</p>}
			{error && <Alert variant="danger">{error}</Alert>}
			<ul className="rows small-text">
				{list.files.map((file) => (
					<li key={file.id} className="d-block">
						<div className="d-flex justify-content-between gap-2">
							<span>
								<b>{longDate(file.day)}</b> {file.covers && <span>{file.covers} </span>}
								<span className="second">{file.name}</span>
							</span>
							<span className="second text-nowrap">
								{plural(file.rows, "deal")} · {file.by}{" "}
								<Button size="sm" variant="link" className="p-0 align-baseline" onClick={() => void ask(file.id)}>
									Undo import …
								</Button>
							</span>
						</div>
						{asked?.id === file.id && (
							<Alert variant="warning" className="mt-2 mb-1" role="group" aria-label={`Undo import of ${file.name}`}>
								<p className="mb-2">{effectWords(asked.effect)}</p>
								<Button size="sm" onClick={() => void takeOut(asked)}>
									Undo import
								</Button>{" "}
								<Button size="sm" variant="link" onClick={() => setAsked(null)}>
									Cancel
								</Button>
							</Alert>
						)}
					</li>
				))}
			</ul>
		</section>
	);
}

function effectWords({ deals, versions, anew, vanishing, decisions }: TakingOut): string {
	const names = vanishing
		.slice(0, 8)
		.map((deal) => deal.name || deal.id)
		.join(", ");
	return [
		`It contains ${plural(deals, "deal")}.`,
		versions
			? `${plural(versions, "version")} of its day ${byCount(versions, "goes", "go")}${anew ? `, ${plural(anew, "is", "are")} rebuilt from the other files` : ""}.`
			: "No versions will be deleted: it only repeated known values.",
		vanishing.length
			? `${plural(vanishing.length, "deal")} that only this file has ${byCount(vanishing.length, "is", "are")} deleted with it: ${names}${vanishing.length > 8 ? ` and ${vanishing.length - 8} more` : ""}.`
			: "",
		decisions ? `${plural(decisions, "decision")} about missing deals ${byCount(decisions, "goes", "go")} too, unless the next file is also missing them.` : "",
		"The file can be imported again.",
	]
		.filter(Boolean)
		.join(" ");
}
