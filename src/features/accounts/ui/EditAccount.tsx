"use client";
import { useState } from "react";
import { Form } from "react-bootstrap";
import { FormDialog } from "@/ui/parts/FormDialog";
import { type Input, useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { AccountPage } from "../server/accountPageView";

type Change = Input<"accounts.change">["change"];

interface Props {
	readonly view: AccountPage;
	/** null: it isn’t theirs to give */
	readonly owners: readonly { readonly id: string; readonly name: string }[] | null;
	readonly ownerId: string | null;
	readonly close: () => void;
}

/** What is said of an account, to be changed as it was seen. */
export function EditAccount({ view, owners, ownerId, close }: Props) {
	const before: Required<Change> = {
		name: view.name,
		kind: view.kind as Change["kind"] & (string | null),
		industry: view.industry,
		territory: view.territory,
		ownerId,
	};
	const [draft, setDraft] = useState<Required<Change>>(before);
	const run = useRun();
	const act = useAct();
	const set = (part: Change) => setDraft({ ...draft, ...part } as Required<Change>);
	const text = (value: string) => value.trim() || null;
	const save = async () => {
		const change = Object.fromEntries(Object.entries(draft).filter(([key, value]) => value !== before[key as keyof Change])) as Change;
		if (!Object.keys(change).length) return close();
		const done = await act(run("accounts.change", { id: view.id, versionId: view.version, change }), "Saved.", ({ versionId, before: was }) =>
			run("accounts.change", { id: view.id, versionId, change: was }),
		);
		if (done) close();
	};
	const known = ownerId === null || owners?.some(({ id }) => id === ownerId);
	return (
		<FormDialog title={`Edit ${view.name}`} onSave={() => void save()} onClose={close} not={!draft.name?.trim()} bodyClass="d-grid gap-3">
			<Form.Group controlId="account-name">
				<Form.Label>Name</Form.Label>
				<Form.Control value={draft.name ?? ""} maxLength={200} onChange={({ target }) => set({ name: target.value })} />
			</Form.Group>
			<Form.Group controlId="account-kind">
				<Form.Label>Kind</Form.Label>
				<Form.Select value={draft.kind ?? ""} onChange={({ target }) => set({ kind: (target.value || null) as Change["kind"] & (string | null) })}>
					<option value="">not known</option>
					<option value="customer">customer</option>
					<option value="prospect">prospect</option>
				</Form.Select>
			</Form.Group>
			<Form.Group controlId="account-industry">
				<Form.Label>Industry</Form.Label>
				<Form.Control value={draft.industry ?? ""} maxLength={200} onChange={({ target }) => set({ industry: text(target.value) })} />
			</Form.Group>
			<Form.Group controlId="account-territory">
				<Form.Label>Territory</Form.Label>
				<Form.Control value={draft.territory ?? ""} maxLength={200} onChange={({ target }) => set({ territory: text(target.value) })} />
			</Form.Group>
			<Form.Group controlId="account-owner">
				<Form.Label>Owner</Form.Label>
				<Form.Select value={draft.ownerId ?? ""} disabled={!owners} onChange={({ target }) => set({ ownerId: target.value || null })}>
					<option value="">nobody</option>
					{!known && <option value={ownerId ?? ""}>{view.owner}</option>}
					{owners?.map(({ id, name }) => (
						<option key={id} value={id}>
							{name}
						</option>
					))}
				</Form.Select>
				{!owners && <Form.Text>Only who leads {view.owner}, or operations, can give it to someone else.</Form.Text>}
			</Form.Group>
		</FormDialog>
	);
}
