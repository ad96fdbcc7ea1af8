"use client";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { useMay } from "@/ui/frame/may";
import { FormDialog } from "@/ui/parts/FormDialog";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";

/** Makes an account of one’s own, and opens it. */
export function NewAccount() {
	const may = useMay("editAccounts");
	const [open, setOpen] = useState(false);
	const [name, setName] = useState("");
	const [kind, setKind] = useState<"customer" | "prospect">("prospect");
	const run = useRun();
	const act = useAct();
	const router = useRouter();
	if (!may) return null;
	const save = async () => {
		const made = await act(run("accounts.make", { name, kind }), "Account created.");
		if (made) router.push(`/accounts/${encodeURIComponent(made.result.id)}`);
	};
	return (
		<>
			<Button size="sm" variant="outline-primary" className="text-nowrap no-print" onClick={() => setOpen(true)}>
				Create account
			</Button>
			{open && (
				<FormDialog
					title="Create an account"
					label="Create"
					onSave={() => void save()}
					onClose={() => setOpen(false)}
					not={!name.trim()}
					bodyClass="d-grid gap-3"
				>
					<Form.Group controlId="new-account-name">
						<Form.Label>Name</Form.Label>
						<Form.Control value={name} autoFocus maxLength={200} onChange={({ target }) => setName(target.value)} />
					</Form.Group>
					<Form.Group controlId="new-account-kind">
						<Form.Label>Kind</Form.Label>
						<Form.Select value={kind} onChange={({ target }) => setKind(target.value as "customer" | "prospect")}>
							<option value="prospect">prospect</option>
							<option value="customer">customer</option>
						</Form.Select>
					</Form.Group>
				</FormDialog>
			)}
		</>
	);
}
