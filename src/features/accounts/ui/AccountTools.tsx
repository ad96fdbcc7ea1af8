"use client";
import Link from "next/link";
import { useState } from "react";
import { Button } from "react-bootstrap";
import type { AccountPage } from "../server/accountPageView";
import { EditAccount } from "./EditAccount";
import { MergeAccount } from "./MergeAccount";

/** What can be done with the account itself. */
export function AccountTools({ view }: { view: AccountPage }) {
	const [open, setOpen] = useState<"edit" | "merge" | null>(null);
	const close = () => setOpen(null);
	return (
		<div className="account-tools no-print">
			{view.edit && (
				<Button size="sm" variant="outline-primary" onClick={() => setOpen("edit")}>
					Edit
				</Button>
			)}
			{view.mayMerge && (
				<Button size="sm" variant="link" onClick={() => setOpen("merge")}>
					Merge
				</Button>
			)}
			<Link className="btn btn-link btn-sm" href="/accounts">
				All accounts
			</Link>
			{open === "edit" && view.edit && <EditAccount view={view} owners={view.edit.owners} ownerId={view.edit.ownerId} close={close} />}
			{open === "merge" && <MergeAccount view={view} close={close} />}
		</div>
	);
}
