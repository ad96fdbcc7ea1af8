"use client";
import { parseAsString, useQueryStates } from "nuqs";
import { useTransition } from "react";
import { grouped } from "@/ui/format";
import { MoreRows } from "@/ui/parts/MoreRows";
import type { TaskPage, TaskView } from "../server/readTasks";
import { TaskTable } from "./TaskTable";
import "@/features/deals/ui/deals.css";
import "./tasks.css";
import { TakeAway } from "@/ui/parts/TakeAway";

interface Props {
	readonly page: TaskPage;
	readonly today: string;
	readonly whose: string;
	readonly me: string;
	readonly mayChange: boolean;
	readonly onlyOwn: boolean;
}

const WORDS: Readonly<Record<TaskView, string>> = { open: "open", late: "overdue", done: "done", dropped: "dropped" };
const VIEWS = Object.keys(WORDS) as TaskView[];

/** Who does what by when: given, due and state, by the sentence's people. */
export function TasksScreen({ page: { view, counts, rows }, today, whose, me, mayChange, onlyOwn }: Props) {
	const [waiting, start] = useTransition();
	const [, look] = useQueryStates({ state: parseAsString, limit: parseAsString }, { shallow: false, history: "replace", startTransition: start });
	return (
		<div className={waiting ? "waiting" : ""} aria-busy={waiting}>
			<div className="flag-toggles mb-3" role="group" aria-label="Show tasks that are">
				{VIEWS.map((one) => (
					<button
						key={one}
						type="button"
						className="flag-toggle"
						aria-pressed={one === view}
						onClick={() => void look({ state: one === "open" ? null : one, limit: null })}
					>
						<b>{grouped(counts[one])}</b> {WORDS[one]}
					</button>
				))}
				<span className="small-text second ms-2 me-3">of {whose === "My" ? "mine" : whose}</span>
				<TakeAway table="tasks" />
			</div>
			{rows.length ? (
				<>
					<TaskTable rows={rows} today={today} mayChange={(row) => mayChange && (!onlyOwn || row.assigneeId === me)} />
					<MoreRows shown={rows.length} count={counts[view]} order={view === "open" || view === "late" ? "Due first" : "Newest first"} />
				</>
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
		</div>
	);
}
