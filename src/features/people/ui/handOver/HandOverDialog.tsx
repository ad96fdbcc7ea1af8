"use client";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Alert, Button, Form, Modal, Spinner } from "react-bootstrap";
import { plural } from "@/core/words/grammar";
import { instantDay } from "@/ui/format";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import { type Choices, inputOf, missing, type Preview, startOf, wordsOf } from "./choices";
import { DealsPart } from "./DealsPart";
import { EndPart, PlansPart, TargetsPart, TasksPart } from "./RestParts";

interface Props {
	readonly from: { readonly id: string; readonly name: string };
	readonly zone: string;
	readonly onClose: () => void;
}

/** Hands over what is somebody's, to as many as it takes, and says when they leave: all of it looked at first, done in one step. */
export function HandOverDialog({ from, zone, onClose }: Props) {
	const run = useRun();
	const { data, error } = useQuery({
		queryKey: ["hand over", from.id],
		gcTime: 0,
		queryFn: async () => {
			const found = await run("people.previewHandOver", { from: from.id });
			if (!found.ok) throw new Error(found.detail);
			return found.result;
		},
	});
	return (
		<Modal show onHide={onClose} size="lg" scrollable aria-labelledby="hand-over-title">
			<Modal.Header closeButton>
				<Modal.Title id="hand-over-title">Hand over from {from.name}</Modal.Title>
			</Modal.Header>
			{data ? (
				<Chosen from={from.id} preview={data} zone={zone} onClose={onClose} />
			) : (
				<Modal.Body>
					{error ? (
						<Alert variant="danger" role="alert">
							{error.message}
						</Alert>
					) : (
						<p className="second mb-0" role="status">
							<Spinner as="span" size="sm" /> Loading what they own …
						</p>
					)}
				</Modal.Body>
			)}
		</Modal>
	);
}

function Chosen({ from, preview, zone, onClose }: { from: string; preview: Preview; zone: string; onClose: () => void }) {
	// Long: one form, its fields in their order.
	const run = useRun();
	const act = useAct();
	const [choices, setChoices] = useState<Choices>(() => startOf(preview));
	const [busy, setBusy] = useState(false);
	const set = (part: Partial<Choices>) => setChoices((now) => ({ ...now, ...part }));
	const lacks = missing(preview, choices);
	const parts = { preview, choices, onChange: set };
	const give = async () => {
		setBusy(true);
		const done = await act(
			run("people.handOver", inputOf(from, preview, choices)),
			({ deals, tasks }) => `${plural(deals, "deal")} and ${plural(tasks, "task")} of ${preview.name} were handed over.`,
			({ id }) => run("people.undoHandOver", { id }),
		);
		setBusy(false);
		if (done) onClose();
	};
	const undo = async (id: string) => {
		setBusy(true);
		const done = await act(
			run("people.undoHandOver", { id }),
			({ deals, tasks }) => `Undone: ${plural(deals, "deal")} and ${plural(tasks, "task")} are ${preview.name}’s again.`,
		);
		setBusy(false);
		if (done) onClose();
	};
	const nothing = !preview.deals.length && !preview.tasks.length && !preview.plans.length;
	return (
		<Form
			className="over-form"
			onSubmit={(event) => {
				event.preventDefault();
				if (!lacks && !busy) void give();
			}}
		>
			<Modal.Body>
				{preview.last && (
					<Alert variant="light" className="d-flex flex-wrap gap-2 align-items-center py-2">
						<span>You handed over on {instantDay(preview.last.at, zone)}.</span>
						<Button size="sm" variant="outline-primary" disabled={busy} onClick={() => preview.last && void undo(preview.last.id)}>
							Undo all of it
						</Button>
					</Alert>
				)}
				<EndPart {...parts} />
				{nothing && <p className="second">{preview.name} has no open deals, open tasks or planned rounds.</p>}
				<DealsPart preview={preview} deals={choices.deals} onChange={(deals) => set({ deals })} />
				<TasksPart {...parts} />
				<PlansPart {...parts} />
				<TargetsPart {...parts} />
			</Modal.Body>
			<Modal.Footer>
				<p className="small-text second mb-0 me-auto over-sum" aria-live="polite">
					{lacks ?? `${wordsOf(preview, choices).join("; ")}. The past stays theirs in every view of earlier days.`}
				</p>
				<Button variant="link" onClick={onClose}>
					Cancel
				</Button>
				<Button type="submit" disabled={lacks !== null || busy}>
					{busy && <Spinner as="span" size="sm" />} Hand over
				</Button>
			</Modal.Footer>
		</Form>
	);
}
