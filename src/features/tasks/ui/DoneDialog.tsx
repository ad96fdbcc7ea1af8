"use client";
import { useState } from "react";
import { Alert, Button, Form, Modal } from "react-bootstrap";
import { useNotice } from "@/ui/Notices";
import { useRun } from "@/ui/run";
import { useRefresh } from "@/ui/useAct";
import type { TaskRow } from "../server/readTasks";

interface Props {
	readonly row: TaskRow;
	readonly state: "done" | "dropped";
	readonly onClose: () => void;
	readonly onUndo: () => Promise<void>;
}

/** Asks how it went; the note goes to whoever gave the task. */
export function DoneDialog({ row, state, onClose, onUndo }: Props) {
	const [note, setNote] = useState("");
	const [error, setError] = useState<string | null>(null);
	const [waiting, setWaiting] = useState(false);
	const run = useRun();
	const notice = useNotice();
	const refresh = useRefresh();
	const settle = async () => {
		setWaiting(true);
		const done = await run("tasks.change", { id: row.id, state, note: note.trim() || null });
		setWaiting(false);
		if (!done.ok) return setError(done.detail);
		notice({ words: state === "done" ? "Task done." : "Task dropped.", undo: onUndo });
		onClose();
		refresh();
	};
	return (
		<Modal show onHide={onClose} aria-labelledby="done-title">
			<Form
				onSubmit={(event) => {
					event.preventDefault();
					void settle();
				}}
			>
				<Modal.Header closeButton>
					<Modal.Title id="done-title">
						{state === "done" ? "Done" : "Drop"}: {row.title}
					</Modal.Title>
				</Modal.Header>
				<Modal.Body>
					{error && (
						<Alert variant="danger" role="alert" className="mb-3">
							{error}
						</Alert>
					)}
					<p className="second">
						{row.deal}, {row.account}
					</p>
					<Form.Group controlId="done-note">
						<Form.Label>{state === "done" ? "How did it go? A sentence is enough." : "Why is it dropped?"}</Form.Label>
						<Form.Control as="textarea" rows={3} value={note} maxLength={10_000} autoFocus onChange={(event) => setNote(event.target.value)} />
					</Form.Group>
				</Modal.Body>
				<Modal.Footer>
					<Button variant="link" onClick={onClose}>
						Cancel
					</Button>
					<Button type="submit" disabled={waiting}>
						{waiting ? "Saving …" : state === "done" ? "It is done" : "Drop it"}
					</Button>
				</Modal.Footer>
			</Form>
		</Modal>
	);
}
