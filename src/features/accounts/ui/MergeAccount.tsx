"use client";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Form } from "react-bootstrap";
import { FormDialog } from "@/ui/parts/FormDialog";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { AccountPage } from "../server/accountPageView";

/** Merges another account, which is the same customer, into this one: it says what moves before it does. */
export function MergeAccount({ view, close }: { view: AccountPage; close: () => void }) {
	// Long: one form, its parts in their order.
	const [text, setText] = useState(view.name);
	const [from, setFrom] = useState<string | null>(null);
	const run = useRun();
	const act = useAct();
	const { data: found } = useQuery({
		queryKey: ["accounts.find", text],
		enabled: text.trim() !== "",
		queryFn: () => run("accounts.find", { text }),
	});
	const { data: preview } = useQuery({
		queryKey: ["accounts.previewMerge", from, view.id, view.version],
		enabled: from !== null,
		queryFn: () => run("accounts.previewMerge", { from: from ?? "", into: view.id }),
	});
	const merge = async () => {
		if (!from) return;
		const done = await act(run("accounts.merge", { from, into: view.id, versionId: view.version }), "Merged.", ({ merge: id }) =>
			run("accounts.unmerge", { merge: id }),
		);
		if (done) close();
	};
	const others = found?.ok ? found.result.filter(({ id }) => id !== view.id) : [];
	const wrong = [found, preview].find((one) => one && !one.ok);
	return (
		<FormDialog
			title={`Merge another account into ${view.name}`}
			label="Merge"
			onSave={() => void merge()}
			onClose={close}
			error={wrong && !wrong.ok ? wrong.detail : null}
			not={!from || !preview?.ok}
			bodyClass="d-grid gap-3"
		>
			<Form.Group controlId="merge-text">
				<Form.Label>The account that is the same customer</Form.Label>
				<Form.Control
					type="search"
					value={text}
					autoFocus
					onChange={({ target }) => {
						setText(target.value);
						setFrom(null);
					}}
				/>
			</Form.Group>
			<div>
				{others.map(({ id, name, about }) => (
					<Form.Check
						key={id}
						type="radio"
						name="merge-from"
						id={`merge-${id}`}
						checked={from === id}
						onChange={() => setFrom(id)}
						label={`${name}, ${about}`}
					/>
				))}
				{found?.ok && !others.length && <p className="second small-text mb-0">No other account has these words in its name.</p>}
			</div>
			{from && preview?.ok && <p className="mb-0">{preview.result.words} The other account is then gone; this can be undone.</p>}
		</FormDialog>
	);
}
