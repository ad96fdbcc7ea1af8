"use client";
import { useState } from "react";
import { Alert, Button, Form, Modal } from "react-bootstrap";
import { shortDate } from "@/ui/format";
import { useNotice } from "@/ui/Notices";
import { useRun } from "@/ui/run";
import { useRefresh } from "@/ui/useAct";

/** A deal as far as assigning needs it. */
export interface AssignDeal {
	readonly id: string;
	readonly name: string;
	readonly account: string;
	readonly owner: string;
	readonly ownerActive: boolean;
	readonly close: string | null;
}

export interface Draft {
	readonly deals: readonly AssignDeal[];
	readonly title: string;
	readonly flags: readonly string[];
	readonly due: string;
}

/** Writes the task once; each deal's owner gets it. Says who gets what before anything is written, and can be undone. */
export function AssignDialog({ draft, today, onClose }: { draft: Draft; today: string; onClose: (done: boolean) => void }) {
	const [title, setTitle] = useState(draft.title);
	const [due, setDue] = useState(draft.due);
	const [error, setError] = useState<string | null>(null);
	const [waiting, setWaiting] = useState(false);
	const run = useRun();
	const notice = useNotice();
	const refresh = useRefresh();
	const { deals } = draft;
	const without = deals.filter((deal) => !deal.ownerActive);
	const late = deals.filter((deal) => deal.close !== null && deal.close < due);
	const owners = new Map<string, number>();
	for (const deal of deals) {
		const who = deal.ownerActive ? deal.owner : "you";
		owners.set(who, (owners.get(who) ?? 0) + 1);
	}

	const give = async () => {
		setWaiting(true);
		setError(null);
		const done = await run("tasks.give", { dealIds: deals.map((deal) => deal.id), title, dueOn: due, flags: [...draft.flags] });
		setWaiting(false);
		if (!done.ok) return setError(done.detail);
		const given = done.result.tasks;
		notice({
			words: `${given.length === 1 ? "Task given" : `${given.length} tasks given`}, due ${shortDate(due)}.`,
			undo: async () => {
				await run("tasks.takeBack", { ids: given.map((task) => task.id) });
				refresh();
			},
		});
		refresh();
		onClose(true);
	};

	return (
		<Modal show onHide={() => onClose(false)} aria-labelledby="assign-title">
			<Form
				onSubmit={(event) => {
					event.preventDefault();
					void give();
				}}
			>
				<Modal.Header closeButton>
					<Modal.Title id="assign-title">{deals.length === 1 ? `A task for ${deals[0]?.name}` : `A task for ${deals.length} deals`}</Modal.Title>
				</Modal.Header>
				<Modal.Body>
					{error && (
						<Alert variant="danger" className="mb-3" role="alert">
							{error}
						</Alert>
					)}
					<Form.Group controlId="task-title" className="mb-3">
						<Form.Label>What is to be done</Form.Label>
						<Form.Control
							as="textarea"
							rows={2}
							value={title}
							maxLength={300}
							required
							autoFocus
							placeholder="Agree a real close date with the buyer"
							onChange={(event) => setTitle(event.target.value)}
						/>
					</Form.Group>
					<Form.Group controlId="task-due" className="mb-3">
						<Form.Label>Due</Form.Label>
						<Form.Control type="date" value={due} min={today} required onChange={(event) => setDue(event.target.value)} />
						<Form.Text>Three working days from today, unless you choose another day.</Form.Text>
					</Form.Group>
					<p className="mb-1">Goes to {[...owners].map(([who, count]) => (count > 1 ? `${who} (${count})` : who)).join(", ")}.</p>
					{without.length > 0 && (
						<Alert variant="warning" className="small-text mb-2">
							Nobody who works here owns {without.map((deal) => deal.name).join(", ")}: that task comes to you.
						</Alert>
					)}
					{late.length > 0 && (
						<Alert variant="warning" className="small-text">
							Due after the close date of{" "}
							{late
								.slice(0, 3)
								.map((deal) => `${deal.name} (${shortDate(deal.close)})`)
								.join(", ")}
							{late.length > 3 ? ` and ${late.length - 3} more` : ""}.
						</Alert>
					)}
				</Modal.Body>
				<Modal.Footer>
					<Button variant="link" onClick={() => onClose(false)}>
						Cancel
					</Button>
					<Button type="submit" disabled={waiting || !title.trim()}>
						{waiting ? "Giving …" : deals.length === 1 ? "Give the task" : `Give ${deals.length} tasks`}
					</Button>
				</Modal.Footer>
			</Form>
		</Modal>
	);
}
