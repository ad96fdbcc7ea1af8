"use client";
import { parseAsString, useQueryState } from "nuqs";
import { TaskDialog } from "@/features/tasks/ui/TaskDialog";
import { shortDate } from "@/ui/format";
import type { SheetTask, SheetView } from "../server/sheetView";

const DONE_SHOWN = 3;

/** The deal's tasks: the open ones and the last that were settled, each with the story of the flags it is to clear. */
export function SheetTasks({ view }: { view: SheetView }) {
	const [shown, setShown] = useQueryState("task", parseAsString.withOptions({ shallow: true, history: "replace" }));
	const open = view.tasks.filter((task) => task.state === "open");
	const done = view.tasks.filter((task) => task.state !== "open").slice(-DONE_SHOWN);
	return (
		<section>
			<h3>{open.length || !done.length ? "Open tasks" : "Tasks"}</h3>
			{open.length > 0 && <List tasks={open} onOpen={(id) => void setShown(id)} />}
			{!open.length && <p className="small-text second mb-0">No open tasks.</p>}
			{done.length > 0 && (
				<>
					<h4 className="small-text second mt-2 mb-0">Recently settled</h4>
					<List tasks={done} onOpen={(id) => void setShown(id)} />
				</>
			)}
			{shown && <TaskDialog id={shown} today={view.seen} onClose={() => void setShown(null)} />}
		</section>
	);
}

function List({ tasks, onOpen }: { tasks: readonly SheetTask[]; onOpen: (id: string) => void }) {
	return (
		<ul className="rows small-text">
			{tasks.map((task) => (
				<li key={task.id}>
					<span>
						<button type="button" className="plain-button text-start" onClick={() => onOpen(task.id)}>
							{task.title}
						</button>
						{task.stories.map(({ name, words }) => (
							<span key={name} className="d-block tiny second">
								{name}: {words}
							</span>
						))}
					</span>
					<span className={`tiny text-nowrap ${task.late ? "worse" : "second"}`}>
						{task.assignee}, {task.state === "open" ? shortDate(task.due) : task.state}
						{task.late && " late"}
					</span>
				</li>
			))}
		</ul>
	);
}
