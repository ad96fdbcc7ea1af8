"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { plural } from "@/core/words/grammar";
import { DayField } from "@/ui/parts/DayField";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";

interface Props {
	readonly ids: readonly string[];
	readonly people: readonly { readonly id: string; readonly name: string }[];
	readonly today: string;
	readonly onDone: () => void;
}

/** What is done with all marked tasks at once: moved, given to somebody, dropped; each undone by one press. */
export function ManyTasks({ ids, people, today, onDone }: Props) {
	const [day, setDay] = useState(today);
	const [who, setWho] = useState("");
	const run = useRun();
	const act = useAct();
	if (!ids.length) return null;
	const many = async (change: { dueOn?: string; later?: number; assigneeId?: string; drop?: boolean }, words: (count: number) => string) => {
		const done = await act(
			run("tasks.changeMany", { ids: [...ids], ...change }),
			({ count }) => words(count),
			({ changes }) => (changes.length ? run("tasks.undoChanges", { changes: [...changes] }) : Promise.resolve({ ok: true as const, result: {} })),
		);
		if (done) onDone();
	};
	return (
		<section className="many-tasks no-print" aria-label="Selected tasks">
			<b>{plural(ids.length, "task")}</b>
			<span>
				<Button size="sm" variant="outline-primary" onClick={() => void many({ later: 1 }, (count) => `${plural(count, "task")} due a working day later.`)}>
					A day later
				</Button>
				<Button size="sm" variant="outline-primary" onClick={() => void many({ later: 5 }, (count) => `${plural(count, "task")} due a week later.`)}>
					A week later
				</Button>
			</span>
			<span>
				<DayField size="sm" aria-label="Due on" min={today} value={day} onDay={(day) => setDay(day)} />
				<Button size="sm" variant="outline-primary" disabled={!day} onClick={() => void many({ dueOn: day }, (count) => `${plural(count, "task")} moved.`)}>
					Move
				</Button>
			</span>
			<span>
				<Form.Select size="sm" aria-label="Give them to" value={who} onChange={(event) => setWho(event.target.value)}>
					<option value="">Give them to …</option>
					{people.map(({ id, name }) => (
						<option key={id} value={id}>
							{name}
						</option>
					))}
				</Form.Select>
				<Button
					size="sm"
					variant="outline-primary"
					disabled={!who}
					onClick={() => void many({ assigneeId: who }, (count) => `${plural(count, "task")} handed over.`)}
				>
					Hand over
				</Button>
			</span>
			<Button size="sm" variant="outline-danger" onClick={() => void many({ drop: true }, (count) => `${plural(count, "task")} dropped.`)}>
				Drop
			</Button>
			<Button size="sm" variant="link" onClick={onDone}>
				Clear selection
			</Button>
		</section>
	);
}
