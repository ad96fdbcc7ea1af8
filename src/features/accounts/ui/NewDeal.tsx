"use client";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { parseAmount } from "@/core/money/amount";
import { currencySign } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import { useMay } from "@/ui/frame/may";
import { DayField } from "@/ui/parts/DayField";
import { FormDialog } from "@/ui/parts/FormDialog";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { AccountPage } from "../server/accountPageView";

/** Makes a deal at the account, in the first stage, and opens it. */
export function NewDeal({ view }: { view: AccountPage }) {
	const may = useMay("editDeals");
	const [open, setOpen] = useState(false);
	if (!may) return null;
	return (
		<>
			<Button size="sm" variant="link" className="p-0 no-print" onClick={() => setOpen(true)}>
				Create deal
			</Button>
			{open && <Fields view={view} close={() => setOpen(false)} />}
		</>
	);
}

function Fields({ view, close }: { view: AccountPage; close: () => void }) {
	const [name, setName] = useState("");
	const [amount, setAmount] = useState("");
	const [closeDate, setCloseDate] = useState("");
	const run = useRun();
	const act = useAct();
	const router = useRouter();
	const address = useAddress();
	const minor = amount.trim() ? parseAmount(amount, view.currency) : null;
	const wrong = minor !== null && typeof minor !== "number";
	const save = async () => {
		if (wrong) return;
		const made = await act(run("accounts.makeDeal", { accountId: view.id, name, amount: minor, closeDate: closeDate || null }), "Deal created.", ({ id }) =>
			run("accounts.unmakeDeal", { id }),
		);
		if (!made) return;
		close();
		router.push(address(`/deals/${encodeURIComponent(made.result.id)}`));
	};
	return (
		<FormDialog
			title={`Create a deal with ${view.name}`}
			label="Create"
			onSave={() => void save()}
			onClose={close}
			not={!name.trim() || wrong}
			bodyClass="d-grid gap-3"
		>
			<Form.Group controlId="deal-name">
				<Form.Label>Name</Form.Label>
				<Form.Control value={name} autoFocus maxLength={200} onChange={({ target }) => setName(target.value)} />
			</Form.Group>
			<Form.Group controlId="deal-amount">
				<Form.Label>Amount {currencySign(view.currency).trim()}</Form.Label>
				<Form.Control inputMode="decimal" value={amount} isInvalid={wrong} onChange={({ target }) => setAmount(target.value)} />
				<Form.Control.Feedback type="invalid">Write the amount as a number, such as 12 500.</Form.Control.Feedback>
			</Form.Group>
			<Form.Group>
				<Form.Label htmlFor="deal-close">Close date</Form.Label>
				<DayField id="deal-close" value={closeDate} onDay={setCloseDate} />
			</Form.Group>
		</FormDialog>
	);
}
