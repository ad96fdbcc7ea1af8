"use client";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Alert, Button, Form, Modal, Spinner } from "react-bootstrap";
import { plural } from "@/core/time/words";
import { money, shortDate } from "@/ui/format";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";

const SHOWN = 12;

/** Hands somebody's open deals and tasks over to another in one step, once they were looked at. */
export function HandOverDialog({ from, onClose }: { from: { readonly id: string; readonly name: string }; onClose: () => void }) {
	const [to, setTo] = useState("");
	const [what, setWhat] = useState({ deals: true, tasks: true });
	const run = useRun();
	const act = useAct();
	const { data, error } = useQuery({
		queryKey: ["hand over", from.id],
		queryFn: async () => {
			const found = await run("people.previewHandOver", { from: from.id });
			if (!found.ok) throw new Error(found.detail);
			return found.result;
		},
	});
	const give = async () => {
		const done = await act(
			run("people.handOver", { from: from.id, to, ...what }),
			(done) => `${plural(done.deals.length, "deal")} and ${plural(done.changes.length, "task")} are ${done.to}’s now.`,
			({ deals, changes }) => run("people.undoHandOver", { deals, changes }),
		);
		if (done) onClose();
	};
	const nothing = data && !data.deals.length && !data.tasks.length;
	return (
		<Modal show onHide={onClose} aria-labelledby="hand-over-title">
			<Form
				onSubmit={(event) => {
					event.preventDefault();
					void give();
				}}
			>
				<Modal.Header closeButton>
					<Modal.Title id="hand-over-title">Hand over from {from.name}</Modal.Title>
				</Modal.Header>
				<Modal.Body>
					{error && (
						<Alert variant="danger" role="alert">
							{error.message}
						</Alert>
					)}
					{!data && !error && (
						<p className="second mb-0" role="status">
							<Spinner as="span" size="sm" /> Looking at their deals and tasks …
						</p>
					)}
					{nothing && <p className="mb-0">{from.name} has no open deals and no open tasks.</p>}
					{data && !nothing && (
						<>
							<Form.Group controlId="hand-over-to" className="mb-3">
								<Form.Label>To</Form.Label>
								<Form.Select value={to} required onChange={(event) => setTo(event.target.value)}>
									<option value="">Choose somebody</option>
									{[...data.people]
										.sort((a, b) => Number(b.team === data.team) - Number(a.team === data.team) || a.name.localeCompare(b.name))
										.map(({ id, name, team }) => (
											<option key={id} value={id}>
												{name}
												{team ? `, ${team}` : ""}
											</option>
										))}
								</Form.Select>
							</Form.Group>
							<Form.Check
								id="hand-over-deals"
								className="mb-1"
								label={`${plural(data.deals.length, "open deal")}, ${money(
									data.deals.reduce((sum, { amount }) => sum + amount, 0),
									data.currency,
								)}`}
								checked={what.deals}
								onChange={(event) => setWhat({ ...what, deals: event.target.checked })}
							/>
							<ul className="rows small-text mb-2">
								{data.deals.slice(0, SHOWN).map((deal) => (
									<li key={deal.id}>
										<span>{deal.name}</span>
										<span className="num">{money(deal.amount, data.currency)}</span>
									</li>
								))}
								{data.deals.length > SHOWN && <li className="second">and {data.deals.length - SHOWN} more</li>}
							</ul>
							<Form.Check
								id="hand-over-tasks"
								className="mb-1"
								label={plural(data.tasks.length, "open task")}
								checked={what.tasks}
								onChange={(event) => setWhat({ ...what, tasks: event.target.checked })}
							/>
							<ul className="rows small-text">
								{data.tasks.slice(0, SHOWN).map((task) => (
									<li key={task.id}>
										<span>{task.title}</span>
										<span className="second">{shortDate(task.dueOn)}</span>
									</li>
								))}
								{data.tasks.length > SHOWN && <li className="second">and {data.tasks.length - SHOWN} more</li>}
							</ul>
							<p className="second small-text mb-0">What was theirs until now stays theirs in everything that looks back.</p>
						</>
					)}
				</Modal.Body>
				<Modal.Footer>
					<Button variant="link" onClick={onClose}>
						Cancel
					</Button>
					<Button type="submit" disabled={!to || !(what.deals || what.tasks)}>
						Hand over
					</Button>
				</Modal.Footer>
			</Form>
		</Modal>
	);
}
