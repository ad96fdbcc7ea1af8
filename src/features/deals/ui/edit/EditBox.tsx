"use client";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import { Alert, Button, Form, Overlay, Popover } from "react-bootstrap";
import { parseAmount } from "@/core/money/amount";
import { exponentOf } from "@/core/money/currency";
import { type DealTarget, type EditInput, type Refusal, useActions } from "@/ui/actions";
import { currencySign, spaced } from "@/ui/format";
import { useNotice } from "@/ui/parts/Notices";
import type { EditChoices } from "../../server/editChoices";
import { Needed, neededFor } from "./Needed";
import "./edit.css";

/** A deal as far as an edit needs it. Amounts in minor units of their own currency. */
export interface EditDeal {
	readonly id: string;
	readonly name: string;
	readonly versionId: number;
	readonly stage: string;
	readonly ownAmount: number | null;
	readonly ownCurrency: string;
	readonly close: string | null;
	readonly ownerId: string | null;
	readonly category: string | null;
	readonly nextStep: string | null;
	readonly nextStepDate: string | null;
}

export const EDIT_FIELDS = [
	{ key: "close", words: "Close date" },
	{ key: "amount", words: "Amount" },
	{ key: "stage", words: "Stage" },
	{ key: "category", words: "Category" },
	{ key: "next", words: "Next step" },
	{ key: "owner", words: "Owner" },
] as const;
export type EditField = (typeof EDIT_FIELDS)[number]["key"];

interface Props {
	readonly deal: EditDeal;
	readonly field: EditField;
	readonly target: HTMLElement;
	readonly choices: EditChoices;
	readonly today: string;
	readonly onClose: () => void;
}

/** What was typed, for each field of a deal. */
function startOf(deal: EditDeal): Record<string, string> {
	const places = exponentOf(deal.ownCurrency) ?? 2;
	return {
		close: deal.close ?? "",
		amount: deal.ownAmount === null ? "" : (deal.ownAmount / 10 ** places).toFixed(deal.ownAmount % 10 ** places ? places : 0),
		stage: deal.stage,
		category: deal.category ?? "",
		owner: deal.ownerId ?? "",
		next: deal.nextStep ?? "",
		nextDate: deal.nextStepDate ?? "",
	};
}

/** The change that a field's text asks for; a string says what is wrong with it. */
export function changeOf(field: EditField, typed: Record<string, string>, currency: string): EditInput | string {
	const of = (name: string) => typed[name]?.trim() || null;
	switch (field) {
		case "close":
			return { closeDate: of("close") };
		case "stage":
			return { stage: typed.stage ?? "" };
		case "category":
			return { category: of("category") as EditInput["category"] & {} };
		case "owner":
			return { ownerId: of("owner") };
		case "next":
			return { nextStep: of("next"), nextStepDate: of("nextDate") };
		case "amount": {
			const text = of("amount")?.replace(/[\s\u00a0’']/g, "");
			if (!text) return { amount: null };
			const amount = parseAmount(text, currency);
			return typeof amount === "string" ? `“${typed.amount}” isn’t an amount in ${currency}; write it like 41250 or 41250.50.` : { amount };
		}
	}
}

/** One field of one deal, changed where it stands. Asks for what the change needs, tells when somebody was faster, and can be undone. */
export function EditBox({ deal, field: first, target, choices, today, onClose }: Props) {
	const [field, setField] = useState<EditField>(first);
	const [typed, setTyped] = useState(() => startOf(deal));
	const [extra, setExtra] = useState<Record<string, string>>({ closedOn: today });
	const [refusal, setRefusal] = useState<Refusal | null>(null);
	const [waiting, setWaiting] = useState(false);
	const [version, setVersion] = useState(deal.versionId);
	const actions = useActions();
	const done = useEdited();
	const change = changeOf(field, typed, deal.ownCurrency);
	const needs = typeof change === "string" ? [] : neededFor(change, [deal], choices);

	const save = async () => {
		if (typeof change === "string") return setRefusal({ ok: false, title: "Please check", detail: change });
		setWaiting(true);
		setRefusal(null);
		const answer = await actions.edit([{ id: deal.id, versionId: version }], { ...change, ...given(needs, extra) });
		setWaiting(false);
		if (!answer.ok) return setRefusal(answer);
		done(answer.deals);
		onClose();
	};
	const set = (name: string) => (event: { target: { value: string } }) => setTyped({ ...typed, [name]: event.target.value });

	return (
		<Overlay show target={target} placement="auto" rootClose onHide={onClose} popperConfig={STAY_IN_VIEW}>
			{({ placement: _, arrowProps: __, show: ___, popper, hasDoneInitialMeasure: ____, ...place }) => (
				<Popover {...place} className="edit-box" aria-label={`Change ${deal.name}`}>
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
						<Form.Select
							size="sm"
							className="edit-field"
							aria-label="What to change"
							value={field}
							onChange={(event) => setField(event.target.value as EditField)}
						>
							{EDIT_FIELDS.filter(({ key }) => key !== "owner" || choices.owners.length).map(({ key, words }) => (
								<option key={key} value={key}>
									{words}
								</option>
							))}
						</Form.Select>
						<Editor field={field} typed={typed} set={set} deal={deal} choices={choices} />
						<Needed needs={needs} extra={extra} setExtra={setExtra} choices={choices} today={today} />
						{refusal && (
							<Alert variant="danger" className="small-text mt-2" role="alert">
								{refusal.detail}
								{refusal.status === 412 && typeof refusal.more?.versionId === "number" && (
									<div className="mt-1">
										<Button
											size="sm"
											variant="outline-primary"
											onClick={() => {
												setVersion(refusal.more?.versionId as number);
												setRefusal(null);
											}}
										>
											Mine shall count
										</Button>
									</div>
								)}
							</Alert>
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

/** Keeps the box within the window, whichever way it grows. */
const STAY_IN_VIEW = { modifiers: [{ name: "preventOverflow", options: { altAxis: true, padding: 8 } }] };

/** Has the box placed anew when what stands in it has changed. */
function Grown({ by, then }: { by: string; then: (() => void) | undefined }) {
	// biome-ignore lint/correctness/useExhaustiveDependencies: what it has grown by is all that counts
	useEffect(() => then?.(), [by]);
	return null;
}

/** The answers to what a change needs. */
export function given(needs: ReturnType<typeof neededFor>, extra: Record<string, string>): EditInput {
	return Object.fromEntries(needs.map(({ name }) => [name, extra[name]?.trim() || (name === "competitor" ? null : "")])) as EditInput;
}

/** What follows an edit: the figures are read again, and a notice offers to undo it. */
export function useEdited() {
	const router = useRouter();
	const notice = useNotice();
	const actions = useActions();
	const again = () => {
		router.refresh();
		window.dispatchEvent(new Event("porch-lamp:changed"));
	};
	return (deals: readonly { id: string; name: string; versionId: number; differences: readonly { field: string; before: string; after: string }[] }[]) => {
		const changed = deals.filter((deal) => deal.differences.length);
		again();
		const [only] = changed;
		if (!only) return notice({ words: "Nothing was different, so nothing was changed." });
		const words =
			changed.length === 1
				? `${only.name}: ${only.differences.map((d) => `${d.field.toLowerCase()} ${d.before} → ${d.after}`).join("; ")}.`
				: `${changed.length} deals were changed.`;
		notice({
			words,
			undo: async () => {
				const back = await actions.undoEdit(changed.map(({ id, versionId }): DealTarget => ({ id, versionId })));
				again();
				notice({ words: back.ok ? "Undone." : back.detail });
			},
		});
	};
}

interface EditorProps {
	readonly field: EditField;
	readonly typed: Record<string, string>;
	readonly set: (name: string) => (event: { target: { value: string } }) => void;
	readonly deal: Pick<EditDeal, "ownCurrency" | "ownerId"> & { readonly owner?: string };
	readonly choices: EditChoices;
}

/** The control of a field. */
export function Editor({ field, typed, set, deal, choices }: EditorProps) {
	const of = (name: string) => ({ size: "sm" as const, value: typed[name] ?? "", onChange: set(name) });
	switch (field) {
		case "close":
			return <Form.Control type="date" aria-label="Close date" autoFocus {...of("close")} />;
		case "amount":
			return (
				<div className="input-group input-group-sm">
					<span className="input-group-text">{currencySign(deal.ownCurrency).trim()}</span>
					<Form.Control inputMode="decimal" aria-label="Amount" autoFocus {...of("amount")} />
				</div>
			);
		case "stage":
			return (
				<Form.Select aria-label="Stage" autoFocus {...of("stage")}>
					{choices.stages.map((stage) => (
						<option key={stage.name}>{stage.name}</option>
					))}
				</Form.Select>
			);
		case "category":
			return (
				<Form.Select aria-label="Category" autoFocus {...of("category")}>
					<option value="">no category</option>
					{choices.categories.map((category) => (
						<option key={category} value={category}>
							{spaced(category)}
						</option>
					))}
				</Form.Select>
			);
		case "owner":
			return (
				<Form.Select aria-label="Owner" autoFocus {...of("owner")}>
					<option value="">nobody</option>
					{deal.ownerId && !choices.owners.some((owner) => owner.id === deal.ownerId) && <option value={deal.ownerId}>the present owner</option>}
					{choices.owners.map((owner) => (
						<option key={owner.id} value={owner.id}>
							{owner.name}
						</option>
					))}
				</Form.Select>
			);
		case "next":
			return (
				<>
					<Form.Control aria-label="Next step" placeholder="What happens next" maxLength={500} autoFocus {...of("next")} />
					<Form.Control type="date" className="mt-1" aria-label="Day of the next step" {...of("nextDate")} />
				</>
			);
	}
}
