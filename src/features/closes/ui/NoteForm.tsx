"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { CloseView } from "../server/readClose";

/** The paragraph of a close; where it has none yet, room for it. */
export function NoteForm({ view: { shown, mayClose }, past }: { view: CloseView; past: boolean }) {
	const [text, setText] = useState("");
	const run = useRun();
	const act = useAct();
	if (!shown) return null;
	if (shown.note)
		return (
			<blockquote className="close-note">
				{shown.note} <b>{shown.noteBy}</b>
			</blockquote>
		);
	if (!mayClose || past) return null;
	return (
		<Form
			className="no-print"
			onSubmit={(event) => {
				event.preventDefault();
				void act(run("closes.writeNote", { id: shown.id, note: text }), "Paragraph saved.");
			}}
		>
			<Form.Control
				as="textarea"
				rows={2}
				aria-label="A paragraph of your own"
				placeholder="A paragraph of your own"
				value={text}
				onChange={(event) => setText(event.target.value)}
			/>
			<Button type="submit" size="sm" className="mt-1" disabled={!text.trim()}>
				Save
			</Button>
		</Form>
	);
}
