"use client";
import { Button, Form } from "react-bootstrap";
import type { Input } from "@/ui/run";

type Lines = Input<"people.saveProvider">["groups"];
export const ROLE_WORDS: Readonly<Record<Lines[number]["role"], string>> = { rep: "Rep", manager: "Manager", viewer: "Viewer", ops: "Ops" };

/** Which groups are let in, as what; of several that somebody has the first holds. */
export function GroupLines({ groups, teams, onChange }: { groups: Lines; teams: readonly string[]; onChange: (groups: Lines) => void }) {
	const change = (at: number, part: Partial<Lines[number]>) => onChange(groups.map((line, i) => (i === at ? { ...line, ...part } : line)));
	return (
		<fieldset className="mt-3">
			<legend className="provider-legend">Who is let in</legend>
			<p className="second">
				{groups.length
					? "Anyone who has one of these groups; they are added here when they first sign in. Of several groups the first one counts, and role and team follow it at each sign-in."
					: "Only people who are here already, by their e-mail address; their role and team stay. Add a group to let its people in, with the role and team it gives."}
			</p>
			{groups.map((line, i) => (
				<div className="provider-line" key={i}>
					<Form.Control
						aria-label={`Group ${i + 1}`}
						value={line.group}
						required
						maxLength={300}
						onChange={(event) => change(i, { group: event.target.value })}
					/>
					<Form.Select
						aria-label={`Role of group ${i + 1}`}
						value={line.role}
						onChange={(event) => change(i, { role: event.target.value as Lines[number]["role"] })}
					>
						{Object.entries(ROLE_WORDS).map(([role, words]) => (
							<option key={role} value={role}>
								{words}
							</option>
						))}
					</Form.Select>
					<Form.Select aria-label={`Team of group ${i + 1}`} value={line.team ?? ""} onChange={(event) => change(i, { team: event.target.value || null })}>
						<option value="">No team</option>
						{teams.map((team) => (
							<option key={team}>{team}</option>
						))}
					</Form.Select>
					<Button variant="link" onClick={() => onChange(groups.filter((_, at) => at !== i))} aria-label={`Remove group ${i + 1}`}>
						Remove
					</Button>
				</div>
			))}
			<Button variant="outline-primary" size="sm" onClick={() => onChange([...groups, { group: "", role: "rep", team: null }])}>
				Add a group
			</Button>
		</fieldset>
	);
}
