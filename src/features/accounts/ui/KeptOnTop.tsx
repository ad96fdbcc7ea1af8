"use client";
import { nearDate } from "@/ui/format";
import { AddLine } from "@/ui/parts/AddLine";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { AccountPage } from "../server/accountPageView";

/** Notes about the account that stay where everybody sees them. */
export function KeptOnTop({ view }: { view: AccountPage }) {
	const run = useRun();
	const act = useAct();
	if (!view.notes.length && !view.mayWrite) return null;
	const save = (body: string) => act(run("accounts.note", { accountId: view.id, body }), "Note added.", ({ id }) => run("accounts.endNote", { id }));
	return (
		<section className="panel" aria-label="Kept on top">
			<h3>Kept on top</h3>
			<ul className="account-notes">
				{view.notes.map((note) => (
					<li key={note.id}>
						{note.body}
						<span className="d-block tiny second">
							{note.by}, {nearDate(note.on, view.seen)}
							{view.mayWrite && (
								<button
									type="button"
									className="plain-button tiny no-print ms-2"
									aria-label={`Remove the note: ${note.body.slice(0, 40)}`}
									onClick={() =>
										void act(run("accounts.endNote", { id: note.id }), "Note removed.", () => run("accounts.endNote", { id: note.id, ended: false }))
									}
								>
									Remove
								</button>
							)}
						</span>
					</li>
				))}
			</ul>
			{view.mayWrite && <AddLine label="A note that stays on top" most={2000} onAdd={save} />}
		</section>
	);
}
