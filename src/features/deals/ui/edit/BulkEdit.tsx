"use client";
import { useState } from "react";
import { Alert, Button, Form, Modal } from "react-bootstrap";
import { needsOf } from "@/core/deal/needs";
import type { FieldKey } from "@/core/deal/state";
import { plural } from "@/core/words/grammar";
import { type Input, useRun } from "@/ui/run";
import type { EditChoices } from "../../server/editChoices";
import type { Preview } from "../../server/editDeals";
import { FieldChoice } from "./EditBox";
import type { EditDeal } from "./editDeal";
import { changeOf, FieldInputs, type Typed } from "./fieldInput";
import { given, Needed } from "./Needed";
import { useEdited } from "./useEdited";

interface Props {
	readonly deals: readonly EditDeal[];
	readonly choices: EditChoices;
	readonly today: string;
	readonly onClose: (done: boolean) => void;
}

/** One change for many deals: first what it would do to each, then all of it or nothing. */
export function BulkEdit({ deals: asked, choices, today, onClose }: Props) {
	// What was chosen is changed as it was seen then: what others write meanwhile is told by the server.
	const [deals] = useState(asked);
	const [field, setField] = useState<FieldKey>("closeDate");
	const [typed, setTyped] = useState<Typed>({ stage: choices.stages[0]?.name ?? "" });
	const [extra, setExtra] = useState<Record<string, string>>({ closedOn: today });
	const currency = deals[0]?.state.currency ?? "EUR";
	const mixed = field === "amount" && deals.some((deal) => deal.state.currency !== currency);
	const change = changeOf(field, typed, currency);
	const needs = typeof change === "string" ? [] : [...new Set(deals.flatMap((deal) => needsOf(deal.state, change, choices.stages)))];
	const { preview, forget, error, waiting, send } = useBulk(deals, typeof change === "string" ? change : { ...change, ...given(needs, extra) }, onClose);
	const faults = (preview ?? []).filter((deal) => deal.fault);
	const differing = (preview ?? []).filter((deal) => deal.differences.length);
	return (
		<Modal show onHide={() => onClose(false)} scrollable aria-labelledby="bulk-title">
			<Modal.Header closeButton>
				<Modal.Title id="bulk-title">Change {deals.length} deals</Modal.Title>
			</Modal.Header>
			<Modal.Body>
				<Form
					id="bulk-form"
					onChange={forget}
					onSubmit={(event) => {
						event.preventDefault();
						void send(preview !== null);
					}}
				>
					<div className="bulk-fields">
						<FieldChoice field={field} choices={choices} set={setField} />
						<div>
							<FieldInputs field={field} typed={typed} set={setTyped} currency={currency} owner={null} choices={choices} />
						</div>
					</div>
					<Needed needs={needs} extra={extra} setExtra={setExtra} choices={choices} today={today} />
				</Form>
				{mixed && (
					<Alert variant="warning" className="small-text mt-2">
						These deals have amounts in several currencies; change amounts one currency at a time.
					</Alert>
				)}
				{error && (
					<Alert variant="danger" className="small-text mt-2" role="alert">
						{error}
					</Alert>
				)}
				{preview && <Effects preview={preview} differing={differing.length} faults={faults.length} />}
			</Modal.Body>
			<Modal.Footer>
				<Button variant="link" onClick={() => onClose(false)}>
					Cancel
				</Button>
				<Button type="submit" form="bulk-form" disabled={waiting || mixed || (preview !== null && (faults.length > 0 || !differing.length))}>
					{preview === null ? (waiting ? "Loading …" : "Preview changes") : waiting ? "Changing …" : `Change ${differing.length}`}
				</Button>
			</Modal.Footer>
		</Modal>
	);
}

/** Previews one change of many deals, and writes it; a change that is a sentence says why it can’t be. */
function useBulk(deals: readonly EditDeal[], change: string | Input<"deals.edit">["change"], onClose: (done: boolean) => void) {
	const [preview, setPreview] = useState<Preview[] | null>(null);
	const [error, setError] = useState<string | null>(null);
	const [waiting, setWaiting] = useState(false);
	const run = useRun();
	const edited = useEdited();
	const targets = deals.map(({ id, versionId }) => ({ id, versionId }));
	const send = async (write: boolean) => {
		if (typeof change === "string") return setError(change);
		setWaiting(true);
		setError(null);
		if (write) {
			const answer = await run("deals.edit", { targets, change });
			setWaiting(false);
			if (!answer.ok) return setError(answer.detail);
			edited(answer.result);
			return onClose(true);
		}
		const answer = await run("deals.previewEdit", { targets, change });
		setWaiting(false);
		if (answer.ok) setPreview(answer.result);
		else setError(answer.detail);
	};
	return { preview, forget: () => setPreview(null), error, waiting, send };
}

/** What a change would do to each deal. */
function Effects({ preview, differing, faults }: { preview: readonly Preview[]; differing: number; faults: number }) {
	return (
		<div className="mt-3" aria-live="polite">
			<b>
				{plural(differing, "deal changes", "deals change")}
				{preview.length > differing + faults && `, ${preview.length - differing - faults} already have this value`}
				{faults > 0 && `, ${faults} can’t`}
			</b>
			<ul className="rows small-text">
				{preview.map((deal) => (
					<li key={deal.id}>
						<span>{deal.name}</span>
						<span className={deal.fault ? "worse" : "text-end"}>
							{deal.fault ??
								(deal.differences.map((d) => `${d.field.toLowerCase()} ${d.before} → ${d.after}`).join("; ") || <span className="third">no change</span>)}
						</span>
					</li>
				))}
			</ul>
		</div>
	);
}
