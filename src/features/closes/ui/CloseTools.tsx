"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { useNotice } from "@/ui/Notices";
import { TableExport } from "@/ui/parts/ExportMenu";
import { FormDialog } from "@/ui/parts/FormDialog";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { CloseView } from "../server/readClose";
import { closeMarkdown } from "../table/words";

/** What can be done with a period that is over: closed, corrected, reopened, taken along. */
export function CloseTools({ view, past }: { view: CloseView; past: boolean }) {
	const run = useRun();
	const act = useAct();
	const [asking, setAsking] = useState<"close" | "correct" | null>(null);
	const newest = view.kept.at(-1);
	const save = () => {
		const link = document.createElement("a");
		link.href = URL.createObjectURL(new Blob([closeMarkdown(view)], { type: "text/markdown" }));
		link.download = `close ${view.due}.md`;
		link.click();
		URL.revokeObjectURL(link.href);
	};
	return (
		<div className="no-print close-tools">
			{!past && view.mayClose && !newest && (
				<Button size="sm" onClick={() => setAsking("close")}>
					Close the period
				</Button>
			)}
			{!past && view.mayClose && newest && view.since && (
				<Button size="sm" onClick={() => setAsking("correct")}>
					Save as a correction
				</Button>
			)}
			{!past && view.mayReopen && newest && (
				<Button
					size="sm"
					variant="outline-primary"
					onClick={() => void act(run("closes.reopen", { id: newest.id }), "The period is open; it can be closed again.")}
				>
					Reopen
				</Button>
			)}
			<CopyButton view={view} />
			<Button size="sm" variant="outline-primary" onClick={() => window.print()}>
				Print
			</Button>
			<TableExport table="close" more={{ due: view.due }} also={[{ name: "Markdown", save }]} />
			{asking && <Ask view={view} what={asking} id={newest?.id ?? null} onClose={() => setAsking(null)} />}
		</div>
	);
}

function CopyButton({ view }: { view: CloseView }) {
	const notice = useNotice();
	const copy = async () => {
		const done = await navigator.clipboard?.writeText(closeMarkdown(view)).then(
			() => true,
			() => false,
		);
		notice({ words: done ? "Copied as Markdown." : "The browser doesn’t allow copying; export the file instead." });
	};
	return (
		<Button size="sm" variant="outline-primary" onClick={() => void copy()}>
			Copy as Markdown
		</Button>
	);
}

interface AskProps {
	readonly view: CloseView;
	readonly what: "close" | "correct";
	readonly id: string | null;
	readonly onClose: () => void;
}

/** Asks for a paragraph before a period is closed, or for the reason of a correction. */
function Ask({ view, what, id, onClose }: AskProps) {
	const run = useRun();
	const act = useAct();
	const [text, setText] = useState("");
	const [from = "", to = ""] = view.due.split("..");
	const closing = what === "close";
	const send = async () => {
		const done = closing
			? await act(run("closes.close", { whose: view.whose.key, from, to, note: text }), `${view.label} is closed and sealed.`)
			: await act(run("closes.correct", { id: id ?? "", why: text }), "Correction saved.");
		if (done) onClose();
	};
	return (
		<FormDialog
			title={
				closing
					? `Close ${view.label} for ${view.whose.key === "all" ? "everyone" : view.whose.label.replace(/’s$/, "")}`
					: `Correct the close of ${view.label}`
			}
			label={closing ? "Close and seal" : "Save the correction"}
			not={!closing && !text.trim()}
			onClose={onClose}
			onSave={() => void send()}
		>
			<Form.Group controlId="close-text">
				<Form.Label>{closing ? "A paragraph of your own" : "Why it is corrected"}</Form.Label>
				<Form.Control as="textarea" rows={4} maxLength={closing ? 4000 : 1000} value={text} onChange={(event) => setText(event.target.value)} autoFocus />
				<Form.Text>
					{closing
						? "How the period ended is kept as it reads now, and doesn’t change any more. What is entered later is kept beside it as a correction."
						: "The close stays as it was; the page shows how it reads now, with your reason."}
				</Form.Text>
			</Form.Group>
		</FormDialog>
	);
}
