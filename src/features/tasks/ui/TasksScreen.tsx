"use client";
import { parseAsString, useQueryState, useQueryStates } from "nuqs";
import { useEffect, useMemo, useState, useTransition } from "react";
import { Form } from "react-bootstrap";
import { useHotkeys } from "react-hotkeys-hook";
import type { SavedView } from "@/features/deals/server/views";
import { ViewsMenu } from "@/features/deals/ui/ViewsMenu";
import { type PackedRows, unpackRows } from "@/formats/rowPack";
import { grouped } from "@/ui/format";
import { TableExport } from "@/ui/parts/ExportMenu";
import { MoreRows } from "@/ui/parts/MoreRows";
import { unpacking } from "@/ui/unpacking";
import type { TaskView } from "../server/taskGroups";
import type { TaskPage } from "../server/taskPage";
import type { TaskRow } from "../server/taskRows";
import { IMPORTANCE, IMPORTANCE_WORDS } from "../table/importance";
import { GiveButton } from "./GiveButton";
import { ManyTasks } from "./ManyTasks";
import { TaskTable } from "./TaskTable";
import "@/features/deals/ui/deals.css";
import "./tasks.css";

interface Props {
	readonly page: TaskPage;
	readonly today: string;
	readonly whose: string;
	readonly me: string;
	readonly mayChange: boolean;
	readonly onlyOwn: boolean;
	readonly views?: readonly SavedView[];
}

const WORDS: Readonly<Record<TaskView, string>> = { open: "open", late: "overdue", done: "done", dropped: "dropped" };
const VIEWS = Object.keys(WORDS) as TaskView[];
const GROUPINGS = [
	{ key: "due", label: "by due day" },
	{ key: "rep", label: "by rep" },
	{ key: "deal", label: "by deal" },
	{ key: "flag", label: "by flag" },
] as const;

/** Who does what by when, by the sentence's people: grouped, filtered, marked and changed by the dozen. */
export function TasksScreen({
	page: { view, counts, found, rows: first, rest, groups, people, flags },
	today,
	whose,
	me,
	mayChange,
	onlyOwn,
	views = [],
}: Props) {
	// Long: one page, its parts in their order.
	const [waiting, start] = useTransition();
	const options = { shallow: false, history: "replace", startTransition: start } as const;
	const text = parseAsString;
	const [asked, look] = useQueryStates({ state: text, limit: text, by: text, who: text, flag: text, importance: text, text, view: text }, options);
	const [opened, setOpened] = useQueryState("task", parseAsString.withOptions({ shallow: true, history: "push" }));
	const may = (row: TaskRow) => mayChange && (!onlyOwn || row.assigneeId === me || row.assigneeId === null);
	const rows = useMemo(() => [...first, ...unpackRows<TaskRow>(JSON.parse(rest) as PackedRows)], [first, rest]);
	const marks = useMarks(rows, opened, setOpened);
	const headings = useMemo(() => new Map(groups.map(({ first, label, count }) => [first, `${label} · ${grouped(count)}`])), [groups]);
	const narrowed = Boolean(asked.who || asked.flag || asked.importance || asked.text);
	return (
		<div className={waiting ? "waiting" : ""} aria-busy={waiting}>
			<div className="task-tools no-print">
				<States counts={counts} view={view} whose={whose} onPick={(state) => void look({ state, limit: null })} />
				<span className="task-tools-right">
					<ViewsMenu views={views} current={asked.view} screen="tasks" />
					<TableExport table="tasks" />
					<GiveButton dealIds={[]} variant="primary">
						New task
					</GiveButton>
				</span>
			</div>
			<Filters asked={asked} people={people} flags={flags} look={(change) => void look(change)} />
			{rows.length ? (
				<>
					<TaskTable
						rows={rows}
						today={today}
						mayChange={may}
						headings={headings}
						{...(mayChange && (view === "open" || view === "late") ? { marked: marks.marked, onMark: marks.mark } : {})}
						here={marks.here}
						opened={opened}
						onOpen={(id) => void setOpened(id)}
					/>
					<MoreRows shown={rows.length} count={found} order={view === "open" || view === "late" ? "Due first" : "Newest first"} />
					<ManyTasks ids={rows.filter(({ id }) => marks.marked.has(id)).map(({ id }) => id)} people={people} today={today} onDone={marks.clear} />
				</>
			) : (
				<div className="panel empty">
					<h2>{narrowed ? "No tasks match" : `No ${WORDS[view]} tasks`}</h2>
					<p>
						{narrowed
							? "No tasks match these filters. Show all, or choose other people in the sentence above."
							: view === "open"
								? "Give one here, from a flag’s remedy on a deal’s sheet, or for several selected deals."
								: "No tasks for these people."}
					</p>
				</div>
			)}
		</div>
	);
}

/** The same, of what the page packed. */
export const TasksPacked = unpacking(TasksScreen);

interface StatesProps {
	readonly counts: TaskPage["counts"];
	readonly view: TaskView;
	readonly whose: string;
	/** null: the open ones, which are shown unless others are asked for */
	readonly onPick: (state: string | null) => void;
}

/** How many are open, overdue, done and dropped; a press shows them. */
function States({ counts, view, whose, onPick }: StatesProps) {
	return (
		<div className="flag-toggles" role="group" aria-label="Show tasks that are">
			{VIEWS.map((one) => (
				<button key={one} type="button" className="flag-toggle" aria-pressed={one === view} onClick={() => onPick(one === "open" ? null : one)}>
					<b>{grouped(counts[one])}</b> {WORDS[one]}
				</button>
			))}
			<span className="small-text second ms-2">of {whose === "My" ? "mine" : whose}</span>
		</div>
	);
}

type Asked = Readonly<Partial<Record<"by" | "who" | "flag" | "importance" | "text", string | null>>>;

interface FiltersProps extends Pick<TaskPage, "people" | "flags"> {
	readonly asked: Asked;
	readonly look: (change: Asked & { readonly limit?: null }) => void;
}

/** How the list is grouped, and of which tasks it is. */
function Filters({ asked, people, flags, look }: FiltersProps) {
	const narrowed = Boolean(asked.who || asked.flag || asked.importance || asked.text);
	return (
		<div className="task-filters no-print">
			<Pick
				label="Grouped"
				none=""
				value={asked.by ?? "due"}
				choices={GROUPINGS.map(({ key, label }) => [key, label])}
				onPick={(by) => look({ by: by === "due" ? null : by })}
			/>
			<Pick
				label="Of"
				none="everybody"
				value={asked.who ?? ""}
				choices={[["anyone", "anyone of a team"], ...people.map(({ id, name }): [string, string] => [id, name])]}
				onPick={(who) => look({ who: who || null, limit: null })}
			/>
			<Pick
				label="To clear"
				none="any flag or none"
				value={asked.flag ?? ""}
				choices={flags.map(({ code, name }) => [code, name])}
				onPick={(flag) => look({ flag: flag || null, limit: null })}
			/>
			<Pick
				label="Importance"
				none="any importance"
				value={asked.importance ?? ""}
				choices={IMPORTANCE.map((key) => [key, IMPORTANCE_WORDS[key]])}
				onPick={(importance) => look({ importance: importance || null, limit: null })}
			/>
			<Search text={asked.text ?? ""} onText={(words) => look({ text: words || null, limit: null })} />
			{narrowed && (
				<button type="button" className="plain-button small-text" onClick={() => look({ who: null, flag: null, importance: null, text: null })}>
					Show all
				</button>
			)}
		</div>
	);
}

interface PickProps {
	readonly label: string;
	/** how nothing chosen is called; empty: something always is */
	readonly none: string;
	readonly value: string;
	readonly choices: readonly (readonly [value: string, words: string])[];
	readonly onPick: (value: string) => void;
}

const Pick = ({ label, none, value, choices, onPick }: PickProps) => (
	<Form.Select size="sm" aria-label={label} value={value} onChange={(event) => onPick(event.target.value)}>
		{none && <option value="">{none}</option>}
		{choices.map(([key, name]) => (
			<option key={key} value={key}>
				{name}
			</option>
		))}
	</Form.Select>
);

const PAUSE = 300;

/** Words that a task, its deal or its account has; asked for when the writing pauses. */
function Search({ text, onText }: { text: string; onText: (text: string) => void }) {
	const [words, setWords] = useState(text);
	useEffect(() => setWords(text), [text]);
	// biome-ignore lint/correctness/useExhaustiveDependencies: only what is written starts the pause anew
	useEffect(() => {
		if (words === text) return;
		const timer = setTimeout(() => onText(words.trim()), PAUSE);
		return () => clearTimeout(timer);
	}, [words]);
	return (
		<Form.Control
			size="sm"
			type="search"
			placeholder="Search"
			aria-label="Text in the task, its deal or account"
			value={words}
			maxLength={100}
			onChange={(event) => setWords(event.target.value)}
		/>
	);
}

/** Which tasks are marked, and which one the keys are at. */
function useMarks(rows: readonly TaskRow[], opened: string | null, open: (id: string | null) => unknown) {
	const [marked, setMarked] = useState<ReadonlySet<string>>(new Set());
	const [here, setHere] = useState<string | null>(null);
	const mark = (ids: readonly string[], on: boolean) => setMarked((now) => new Set(on ? [...now, ...ids] : [...now].filter((id) => !ids.includes(id))));
	const move = (step: number) => {
		const at = rows.findIndex(({ id }) => id === here);
		const next = rows[at < 0 ? 0 : Math.min(rows.length - 1, Math.max(0, at + step))];
		if (!next) return;
		setHere(next.id);
		document.querySelector(`[data-task="${CSS.escape(next.id)}"]`)?.scrollIntoView({ block: "nearest" });
	};
	const keys = { enabled: opened === null, enableOnFormTags: false } as const;
	useHotkeys("j", () => move(1), keys, [rows, here]);
	useHotkeys("k", () => move(-1), keys, [rows, here]);
	useHotkeys("x", () => here && mark([here], !marked.has(here)), keys, [here, marked]);
	useHotkeys(
		"enter",
		() => here && void open(here),
		{ ...keys, ignoreEventWhen: (event) => (event.target as HTMLElement).closest("button,a,input") !== null },
		[here],
	);
	return { marked, here, mark, clear: () => setMarked(new Set()) };
}
