"use client";
import { useState } from "react";
import { Form } from "react-bootstrap";
import { type GroupLine, lineFor } from "../../table/groups";
import { ROLE_WORDS } from "./GroupLines";

/** What somebody would be by the groups they have, before anything is saved. */
export function TryGroups({ groups }: { groups: readonly GroupLine<keyof typeof ROLE_WORDS>[] }) {
	const [text, setText] = useState("");
	if (!groups.length) return null;
	const own = text.split(/[\n,;]/).flatMap((one) => one.trim() || []);
	const line = lineFor(groups, own);
	return (
		<Form.Group controlId="provider-try" className="mt-3">
			<Form.Label>Try it: somebody’s groups, parted by commas</Form.Label>
			<Form.Control value={text} placeholder={groups[0]?.group} onChange={(event) => setText(event.target.value)} />
			<p className="mt-1 mb-0" role="status">
				{!own.length
					? ""
					: line
						? `Would be ${ROLE_WORDS[line.role]}${line.team ? ` in ${line.team}` : ", in no team"}, by the group ${line.group}.`
						: "Wouldn’t be let in: none of these groups is named above."}
			</p>
		</Form.Group>
	);
}
