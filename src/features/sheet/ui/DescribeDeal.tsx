"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { ChooseAccount } from "@/features/accounts/ui/ChooseAccount";
import { FormDialog } from "@/ui/parts/FormDialog";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { SheetView } from "../server/sheetView";

/** Names a deal, and says which account it belongs to. */
export function DescribeDeal({ view }: { view: SheetView }) {
	const [open, setOpen] = useState(false);
	if (!view.mayEdit) return null;
	return (
		<>
			<Button size="sm" variant="link" className="p-0 ms-2 tiny no-print" onClick={() => setOpen(true)}>
				Rename or move
			</Button>
			{open && <Fields view={view} close={() => setOpen(false)} />}
		</>
	);
}

function Fields({ view, close }: { view: SheetView; close: () => void }) {
	const seen = view.identity;
	const [name, setName] = useState(seen.name);
	const [account, setAccount] = useState<string | null>(seen.accountId);
	const run = useRun();
	const act = useAct();
	const save = async () => {
		const set = { name: name.trim(), accountId: account };
		const done = await act(run("accounts.describeDeal", { dealId: view.id, set, seen }), "Deal changed.", ({ before }) =>
			run("accounts.describeDeal", { dealId: view.id, set: { ...before, name: before.name || set.name }, seen: set }),
		);
		if (done) close();
	};
	const strangers = account !== seen.accountId && view.people.length > 0;
	return (
		<FormDialog title="Name and account" onSave={() => void save()} onClose={close} not={!name.trim() || account === null} bodyClass="d-grid gap-3">
			<Form.Group controlId="deal-name">
				<Form.Label>Name of the deal</Form.Label>
				<Form.Control value={name} autoFocus maxLength={200} onChange={({ target }) => setName(target.value)} />
			</Form.Group>
			<ChooseAccount label="Account" first={seen.accountId ? view.account : ""} chosen={account} onChoose={setAccount} />
			{strangers && <p className="small-text second mb-0">The people on the deal stay on it. Days before today are read with the account it has now.</p>}
		</FormDialog>
	);
}
