"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { FormDialog } from "@/ui/parts/FormDialog";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";

interface Props {
	/** null: a new team */
	readonly team: { readonly name: string; readonly parent: string | null } | null;
	readonly teams: readonly string[];
	readonly onClose: () => void;
}

/** Makes a team, names it anew, puts it under another, or takes it away. */
export function TeamDialog({ team, teams, onClose }: Props) {
	const [name, setName] = useState(team?.name ?? "");
	const [parent, setParent] = useState(team?.parent ?? "");
	const [error, setError] = useState<string | null>(null);
	const run = useRun();
	const act = useAct();
	const was = team?.name ?? null;
	const save = async () => {
		const done = await run("people.saveTeam", { was, name, parent: parent || null });
		if (!done.ok) return setError(done.detail);
		const back = team
			? () => run("people.saveTeam", { was: name.trim(), name: team.name, parent: team.parent })
			: () => run("people.removeTeam", { name: name.trim() });
		void act(Promise.resolve(done), "Saved.", back);
		onClose();
	};
	const remove = async () => {
		if (!team) return;
		const done = await run("people.removeTeam", { name: team.name });
		if (!done.ok) return setError(done.detail);
		void act(Promise.resolve(done), `${team.name} deleted.`, () => run("people.saveTeam", { was: null, ...team }));
		onClose();
	};
	return (
		<FormDialog
			title={team ? team.name : "New team"}
			size="sm"
			error={error}
			label={team ? "Save" : "Add"}
			onSave={() => void save()}
			onClose={onClose}
			beside={
				team && (
					<Button variant="link" className="me-auto" onClick={() => void remove()}>
						Delete
					</Button>
				)
			}
		>
			<Form.Group controlId="team-name" className="mb-3">
				<Form.Label>Name</Form.Label>
				<Form.Control required autoFocus value={name} maxLength={100} onChange={(event) => setName(event.target.value)} />
			</Form.Group>
			<Form.Group controlId="team-parent">
				<Form.Label>Part of</Form.Label>
				<Form.Select value={parent} onChange={(event) => setParent(event.target.value)}>
					<option value="">no team above it</option>
					{teams
						.filter((other) => other !== was)
						.map((other) => (
							<option key={other}>{other}</option>
						))}
				</Form.Select>
			</Form.Group>
		</FormDialog>
	);
}
