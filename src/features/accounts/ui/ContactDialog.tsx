"use client";
import { useState } from "react";
import { Form } from "react-bootstrap";
import { BUYING_ROLES } from "@/core/people/buyingRoles";
import { FormDialog } from "@/ui/parts/FormDialog";
import { type Input, useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { AccountPage, PagePerson } from "../server/accountPageView";
import { roleWords } from "../table/words";

type Change = Input<"accounts.changeContact">["change"];
type Draft = Required<Omit<Change, "accountId">>;

/** Somebody of theirs, to be made known or changed as they were seen. */
export function ContactDialog({ view, person, close }: { view: AccountPage; person: PagePerson | null; close: () => void }) {
	// Long: one form, its fields in their order.
	const before: Draft = {
		name: person?.name ?? "",
		title: person?.title ?? null,
		email: person?.email ?? null,
		buyingRole: (person?.role ?? "unknown") as Draft["buyingRole"],
		reportsToId: person?.reportsToId ?? null,
	};
	const [draft, setDraft] = useState(before);
	const set = (part: Partial<Draft>) => setDraft({ ...draft, ...part });
	const run = useRun();
	const act = useAct();
	const save = async () => {
		if (!person) {
			const done = await act(run("accounts.makeContact", { accountId: view.id, ...draft, name: draft.name ?? "" }), "Added.");
			if (done) close();
			return;
		}
		const change = Object.fromEntries(Object.entries(draft).filter(([key, value]) => value !== before[key as keyof Draft])) as Change;
		const was = Object.fromEntries(Object.keys(change).map((key) => [key, before[key as keyof Draft]])) as Change;
		if (!Object.keys(change).length) return close();
		const done = await act(run("accounts.changeContact", { id: person.id, versionId: person.versionId, change }), "Saved.", ({ versionId }) =>
			run("accounts.changeContact", { id: person.id, versionId, change: was }),
		);
		if (done) close();
	};
	return (
		<FormDialog
			title={person ? `Edit ${person.name}` : "Add somebody of theirs"}
			onSave={() => void save()}
			onClose={close}
			not={!draft.name?.trim()}
			bodyClass="d-grid gap-3"
		>
			<Form.Group controlId="contact-name">
				<Form.Label>Name</Form.Label>
				<Form.Control value={draft.name ?? ""} autoFocus maxLength={200} onChange={({ target }) => set({ name: target.value })} />
			</Form.Group>
			<Form.Group controlId="contact-title">
				<Form.Label>Title</Form.Label>
				<Form.Control value={draft.title ?? ""} maxLength={200} onChange={({ target }) => set({ title: target.value || null })} />
			</Form.Group>
			<Form.Group controlId="contact-email">
				<Form.Label>E-mail address</Form.Label>
				<Form.Control type="email" value={draft.email ?? ""} maxLength={200} onChange={({ target }) => set({ email: target.value.trim() || null })} />
			</Form.Group>
			<Form.Group controlId="contact-role">
				<Form.Label>Part in buying</Form.Label>
				<Form.Select value={draft.buyingRole ?? "unknown"} onChange={({ target }) => set({ buyingRole: target.value as Draft["buyingRole"] })}>
					{BUYING_ROLES.map((role) => (
						<option key={role} value={role}>
							{roleWords(role) || "not known"}
						</option>
					))}
				</Form.Select>
			</Form.Group>
			<Form.Group controlId="contact-above">
				<Form.Label>Reports to</Form.Label>
				<Form.Select value={draft.reportsToId ?? ""} onChange={({ target }) => set({ reportsToId: target.value || null })}>
					<option value="">nobody known</option>
					{view.people
						.filter(({ id }) => id !== person?.id)
						.map(({ id, name }) => (
							<option key={id} value={id}>
								{name}
							</option>
						))}
				</Form.Select>
			</Form.Group>
		</FormDialog>
	);
}
