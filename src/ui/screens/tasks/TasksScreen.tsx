"use client";
import { parseAsStringLiteral, useQueryState } from "nuqs";
import type { TaskRow } from "@/usecases/readTasks";
import { TaskTable } from "./TaskTable";
import "../deals/deals.css";
import "./tasks.css";

interface Props {
	readonly rows: readonly TaskRow[];
	readonly today: string;
	readonly whose: string;
	readonly me: string;
	readonly mayChange: boolean;
	readonly onlyOwn: boolean;
}

const VIEWS = ["open", "late", "done", "dropped"] as const;
type View = (typeof VIEWS)[number];
const WORDS: Record<View, string> = { open: "open", late: "overdue", done: "done", dropped: "dropped" };

const belongs = (row: TaskRow, view: View) => (view === "late" ? row.overdue : row.state === view);

/** Who does what by when: given, due and state, by the sentence's people. */
export function TasksScreen({ rows, today, whose, me, mayChange, onlyOwn }: Props) {
	const [view, setView] = useQueryState("state", parseAsStringLiteral(VIEWS).withDefault("open").withOptions({ shallow: true, history: "replace" }));
	const shown = rows.filter((row) => belongs(row, view));
	const newest = view === "open" || view === "late" ? shown : [...shown].sort((a, b) => (b.doneAt ?? "").localeCompare(a.doneAt ?? ""));
	return (
		<>
			<div className="flag-toggles mb-3" role="group" aria-label="Show tasks that are">
				{VIEWS.map((v) => (
					<button key={v} type="button" className="flag-toggle" aria-pressed={v === view} onClick={() => void setView(v)}>
						<b>{rows.filter((row) => belongs(row, v)).length}</b> {WORDS[v]}
					</button>
				))}
				<span className="small-text second ms-2">of {whose === "My" ? "mine" : whose}</span>
			</div>
			{newest.length ? (
				<TaskTable rows={newest} today={today} mayChange={(row) => mayChange && (!onlyOwn || row.assigneeId === me)} />
			) : (
				<div className="panel empty">
					<h2>No {WORDS[view]} tasks</h2>
					<p>
						{view === "open"
							? "Give one from a deal: open its sheet and take a remedy, or select some deals and press T."
							: "Nothing here for this choice of people."}
					</p>
				</div>
			)}
		</>
	);
}
