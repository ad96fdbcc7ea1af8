"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { useAttached } from "@/features/attachments/ui/AttachToActivity";
import { IntakeButton } from "@/features/intake/ui/IntakePlace";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { AccountPage } from "../server/accountPageView";
import { ActivityFields, type Direction, type Draft } from "./ActivityFields";

const DIRECTIONS: readonly (readonly [Direction, string])[] = [
	["both", "a conversation"],
	["out", "we to them"],
	["in", "they to us"],
	["none", "internal"],
];

/** Logs something beside the deals: what was said, or what is planned on a day to come. */
export function LogForm({ view }: { view: AccountPage }) {
	const [open, setOpen] = useState(false);
	if (!open)
		return (
			<div className="d-flex gap-3 align-items-center mb-2 no-print">
				<Button size="sm" variant="outline-primary" onClick={() => setOpen(true)}>
					Log something
				</Button>
				<IntakeButton />
			</div>
		);
	return <Fields view={view} close={() => setOpen(false)} />;
}

const KINDS_BESIDE = ["order", "deal"];

function Fields({ view, close }: { view: AccountPage; close: () => void }) {
	const kinds = view.choices.kinds.filter((kind) => !KINDS_BESIDE.includes(kind));
	const [draft, setDraft] = useState<Draft>({ kind: kinds[0] ?? "call", direction: "both", day: view.seen, subject: "" });
	const [contact, setContact] = useState("");
	const attached = useAttached();
	const run = useRun();
	const act = useAct();
	const save = async () => {
		const given = { accountId: view.id, ...draft, contactIds: contact ? [contact] : [] };
		const done = await act(run("accounts.log", given), "Logged.", ({ id }) => run("accounts.unlog", { id }));
		if (!done) return;
		await attached.send(done.result.id);
		close();
	};
	return (
		<Form
			className="account-form no-print"
			onSubmit={(event) => {
				event.preventDefault();
				void save();
			}}
		>
			<ActivityFields
				draft={draft}
				set={(part) => setDraft({ ...draft, ...part })}
				kinds={kinds}
				directions={DIRECTIONS}
				dayLabel="Day"
				today={view.seen}
				label="Log"
				onCancel={close}
			>
				<Form.Select size="sm" aria-label="With" value={contact} onChange={({ target }) => setContact(target.value)}>
					<option value="">with nobody named</option>
					{view.people.map(({ id, name }) => (
						<option key={id} value={id}>
							{name}
						</option>
					))}
				</Form.Select>
				{attached.field}
			</ActivityFields>
		</Form>
	);
}
