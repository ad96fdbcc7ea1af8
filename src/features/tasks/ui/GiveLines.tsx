"use client";
import { Form } from "react-bootstrap";
import { plural } from "@/core/words/grammar";
import { DayField } from "@/ui/parts/DayField";
import { Heads } from "@/ui/parts/Heads";
import type { Draft, Giving, Line } from "./giving";

interface Props {
	readonly draft: Draft;
	readonly giving: Giving;
	readonly lines: readonly Line[];
	readonly set: (part: Partial<Giving>) => void;
}

/** Every task as it would be given: each may be worded, dated or left out alone. */
export function GiveLines({ draft, giving, lines, set }: Props) {
	const edit = (key: string, part: Giving["edits"][string]) => set({ edits: { ...giving.edits, [key]: { ...giving.edits[key], ...part } } });
	const blank = lines.filter((line) => !line.title.trim());
	const left = draft.deals.filter(({ ownerActive }) => giving.to === "owner" && !ownerActive);
	return (
		<div className="give-lines">
			<table className="table table-sm">
				<caption className="visually-hidden">Preview of the tasks</caption>
				<Heads of={["Give", "Deal", "Task", "Due", "For"]} />
				<tbody>
					{lines.map((line) => (
						<tr key={line.key} className={line.left ? "third" : ""}>
							<td data-of="Give">
								<Form.Check
									id={`give-${line.key}`}
									aria-label={`Give it: ${line.deal}`}
									checked={!line.left}
									onChange={(event) => edit(line.key, { left: !event.target.checked })}
								/>
							</td>
							<td data-of="Deal" className="small-text">
								{line.deal}
							</td>
							<td data-of="Task">
								<Form.Control
									size="sm"
									value={line.title}
									maxLength={300}
									aria-label={`Task for ${line.deal}`}
									placeholder="No flag is lit: enter a task, or none is given"
									onChange={(event) => edit(line.key, { title: event.target.value })}
								/>
							</td>
							<td data-of="Due">
								<DayField size="sm" value={line.dueOn} min={draft.today} aria-label={`Due for ${line.deal}`} onDay={(day) => edit(line.key, { dueOn: day })} />
							</td>
							<td data-of="For" className="small-text text-nowrap">
								{line.who}
							</td>
						</tr>
					))}
				</tbody>
			</table>
			{blank.length > 0 && giving.way === "each" && (
				<p className="second small-text mb-1">{plural(blank.length, "deal")} with no flag: no task is given there unless you enter one.</p>
			)}
			{left.length > 0 && <p className="worse small-text mb-1">No current employee owns {left.map(({ name }) => name).join(", ")}: that task goes to you.</p>}
		</div>
	);
}
