"use client";
import { useEffect, useState } from "react";
import { Alert, Button, Form, Overlay, Popover } from "react-bootstrap";
import { needsOf } from "@/core/deal/needs";
import type { FieldKey } from "@/core/deal/state";
import { type Refusal, useRun } from "@/ui/run";
import type { EditChoices } from "../../server/editChoices";
import type { EditDeal } from "./editDeal";
import { changeOf, EDIT_FIELDS, FieldInputs, typedState } from "./fieldInput";
import { given, Needed } from "./Needed";
import { useEdited } from "./useEdited";
import "./edit.css";

interface Props {
	readonly deal: EditDeal;
	readonly field: FieldKey;
	readonly target: HTMLElement;
	readonly choices: EditChoices;
	readonly today: string;
	readonly onClose: () => void;
}

/** One field of one deal, changed where it stands. Asks for what the change needs, tells when somebody was faster, and can be undone. */
export function EditBox({ deal, field: first, target, choices, today, onClose }: Props) {
	// Long: one form, its fields in their order.
	const currency = deal.state.currency ?? "EUR";
	const [field, setField] = useState(first);
	const [typed, setTyped] = useState(() => typedState(deal.state, currency));
	const [extra, setExtra] = useState<Record<string, string>>({ closedOn: today });
	const [refusal, setRefusal] = useState<Refusal | null>(null);
	const [waiting, setWaiting] = useState(false);
	const [version, setVersion] = useState(deal.versionId);
	const run = useRun();
	const done = useEdited();
	const change = changeOf(field, typed, currency);
	const needs = typeof change === "string" ? [] : needsOf(deal.state, change, choices.stages);

	const save = async () => {
		if (typeof change === "string") return setRefusal({ ok: false, title: "Please check", detail: change });
		setWaiting(true);
		setRefusal(null);
		const answer = await run("deals.edit", { targets: [{ id: deal.id, versionId: version }], change: { ...change, ...given(needs, extra) } });
		setWaiting(false);
		if (!answer.ok) return setRefusal(answer);
		done(answer.result);
		onClose();
	};

	return (
		<Overlay show target={target} placement="auto" rootClose onHide={onClose} popperConfig={STAY_IN_VIEW}>
			{({ placement: _, arrowProps: __, show: ___, popper, hasDoneInitialMeasure: ____, ...place }) => (
				<Popover {...place} role="dialog" className="edit-box" aria-label={`Change ${deal.name}`}>
					<Form
						onSubmit={(event) => {
							event.preventDefault();
							void save();
						}}
						onKeyDown={(event) => {
							event.stopPropagation();
							if (event.key === "Escape") onClose();
						}}
					>
						<FieldChoice field={field} choices={choices} set={setField} className="edit-field" />
						<FieldInputs field={field} typed={typed} set={setTyped} currency={currency} owner={deal.state.ownerId} choices={choices} />
						<Needed needs={needs} extra={extra} setExtra={setExtra} choices={choices} today={today} />
						{refusal && (
							<Refused
								refusal={refusal}
								onVersion={(id) => {
									setVersion(id);
									setRefusal(null);
								}}
							/>
						)}
						<div className="d-flex gap-2 mt-2 justify-content-end">
							<Button size="sm" variant="link" onClick={onClose}>
								Cancel
							</Button>
							<Button size="sm" type="submit" disabled={waiting || needs.some((need) => need.must && !extra[need.name]?.trim())}>
								{waiting ? "Saving …" : "Save"}
							</Button>
						</div>
					</Form>
					<Grown by={`${field} ${needs.length} ${refusal?.detail ?? ""}`} then={popper?.scheduleUpdate} />
				</Popover>
			)}
		</Overlay>
	);
}

/** Why a change was refused; where somebody was faster, one’s own value can be kept. */
function Refused({ refusal: { detail, status, more }, onVersion }: { refusal: Refusal; onVersion: (id: number) => void }) {
	const newer = status === 412 && typeof more?.versionId === "number" ? more.versionId : null;
	return (
		<Alert variant="danger" className="small-text mt-2" role="alert">
			{detail}
			{newer !== null && (
				<div className="mt-1">
					<Button size="sm" variant="outline-primary" onClick={() => onVersion(newer)}>
						Use my value
					</Button>
				</div>
			)}
		</Alert>
	);
}

/** Which field a box changes; owners only by those who may give a deal away. */
export function FieldChoice({ field, choices, set, className }: { field: FieldKey; choices: EditChoices; set: (field: FieldKey) => void; className?: string }) {
	return (
		<Form.Select size="sm" className={className ?? ""} aria-label="What to change" value={field} onChange={(event) => set(event.target.value as FieldKey)}>
			{EDIT_FIELDS.filter(({ kind }) => kind !== "person" || choices.owners.length).map(({ key, label }) => (
				<option key={key} value={key}>
					{label}
				</option>
			))}
		</Form.Select>
	);
}

/** Keeps the box within the window, whichever way it grows. */
const STAY_IN_VIEW = { modifiers: [{ name: "preventOverflow", options: { altAxis: true, padding: 8 } }] };

/** Has the box placed anew when what stands in it has changed. */
function Grown({ by, then }: { by: string; then: (() => void) | undefined }) {
	// biome-ignore lint/correctness/useExhaustiveDependencies: what it has grown by is all that counts
	useEffect(() => then?.(), [by]);
	return null;
}
