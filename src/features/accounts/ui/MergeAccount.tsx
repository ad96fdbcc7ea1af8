"use client";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { FormDialog } from "@/ui/parts/FormDialog";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { AccountPage } from "../server/accountPageView";
import { ChooseAccount } from "./ChooseAccount";

/** Merges another account, which is the same customer, into this one: it says what moves before it does. */
export function MergeAccount({ view, close }: { view: AccountPage; close: () => void }) {
	const [from, setFrom] = useState<string | null>(null);
	const run = useRun();
	const act = useAct();
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
	return (
		<FormDialog
			title={`Merge another account into ${view.name}`}
			label="Merge"
			onSave={() => void merge()}
			onClose={close}
			error={preview && !preview.ok ? preview.detail : null}
			not={!from || !preview?.ok}
			bodyClass="d-grid gap-3"
		>
			<ChooseAccount label="The account that is the same customer" first={view.name} chosen={from} onChoose={setFrom} but={view.id} autoFocus />
			{from && preview?.ok && <p className="mb-0">{preview.result.words} The other account is then gone; this can be undone.</p>}
		</FormDialog>
	);
}
