"use client";
import { useState } from "react";
import { Alert, Button } from "react-bootstrap";
import { type Result, useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";

/** Takes the newest import out again, after a look at what that undoes. */
export function TakeOutImport({ id }: { id: string }) {
	const [preview, setPreview] = useState<Result<"import.previewTakeOutBundle"> | null>(null);
	const [error, setError] = useState<string | null>(null);
	const [waiting, setWaiting] = useState(false);
	const run = useRun();
	const act = useAct();
	const look = async () => {
		setWaiting(true);
		const seen = await run("import.previewTakeOutBundle", { id });
		setWaiting(false);
		setError(seen.ok ? null : seen.detail);
		setPreview(seen.ok ? seen.result : null);
	};
	const take = async () => {
		setWaiting(true);
		const done = await run("import.takeOutBundle", { id });
		setWaiting(false);
		setPreview(null);
		if (!done.ok) return setError(done.detail);
		void act(Promise.resolve(done), `Import of ${done.result.name} undone.`);
	};
	return (
		<div className="mt-3">
			{error && (
				<Alert variant="danger" role="alert">
					{error}
				</Alert>
			)}
			{preview ? (
				<section aria-label="What undoing the import changes">
					<p className="mb-1">Undoing it deletes what it added and restores what it changed:</p>
					<ul className="small-text">
						{preview.rows.map(({ what, added, changed }) => (
							<li key={what}>
								{what}: {[added ? `${added} removed` : "", changed ? `${changed} set back` : ""].filter(Boolean).join(", ")}
							</li>
						))}
					</ul>
					<div className="d-flex gap-2">
						<Button size="sm" disabled={waiting} onClick={() => void take()}>
							Undo import
						</Button>
						<Button size="sm" variant="link" onClick={() => setPreview(null)}>
							Cancel
						</Button>
					</div>
				</section>
			) : (
				<Button variant="link" className="p-0" disabled={waiting} onClick={() => void look()}>
					Undo import …
				</Button>
			)}
		</div>
	);
}
