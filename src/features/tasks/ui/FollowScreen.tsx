"use client";
import Link from "next/link";
import { useState } from "react";
import { RULES } from "@/core/flags/list";
import type { Followed } from "@/core/tasks/followThrough";
import type { OutcomeState } from "@/core/tasks/outcome";
import { plural } from "@/core/words/grammar";
import { grouped } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import { DataTable } from "@/ui/parts/table/DataTable";
import type { Behind, FollowedTasks, FollowThroughJson, LateList } from "../server/followThrough";
import type { TaskRow } from "../server/taskRows";
import { ManyTasks } from "./ManyTasks";
import { TaskTable } from "./TaskTable";
import "@/features/deals/ui/deals.css";
import "./tasks.css";

const FOLLOWED_WORDS: Readonly<Record<Followed, string>> = { onTime: "on time", late: "late", dropped: "dropped", overdue: "overdue", open: "open" };
const OUTCOME_WORDS: Readonly<Record<OutcomeState, string>> = {
	out: "cleared",
	closed: "deal closed",
	lit: "still lit",
	early: "too early to tell",
	not_lit: "flag wasn’t on",
};
const SHOWN: readonly OutcomeState[] = ["out", "closed", "lit", "early", "not_lit"];
const WHY_WORDS: Readonly<Record<LateList["why"], string>> = {
	overdue: "overdue",
	"after the close": "due after their deal’s close",
	"after the period": "due after the period’s last working day",
};

interface Props {
	readonly view: FollowThroughJson;
	/** the tasks behind the figure that was opened; null: none was */
	readonly behind: FollowedTasks | null;
	readonly late: readonly LateList[];
	readonly period: string;
	readonly whose: string;
	readonly today: string;
	readonly mayChange: boolean;
	readonly people: readonly { readonly id: string; readonly name: string }[];
}

/** What won't be done in time; then whether what was given in the period was done, and helped. */
export function FollowScreen({ view, behind, late, period, whose, today, mayChange, people }: Props) {
	const [marked, setMarked] = useState<ReadonlySet<string>>(new Set());
	const mark = (ids: readonly string[], on: boolean) => setMarked((now) => new Set(on ? [...now, ...ids] : [...now].filter((id) => !ids.includes(id))));
	const rows: TaskRow[] = late.flatMap((list) => list.rows);
	const count = late.reduce((sum, list) => sum + list.count, 0);
	const headings = new Map<number, string>();
	let at = 0;
	for (const list of late) {
		if (list.rows.length) headings.set(at, `${WHY_WORDS[list.why]} · ${grouped(list.count)}`);
		at += list.rows.length;
	}
	return (
		<div className="follow">
			<section aria-label="Tasks that won’t be done in time">
				<h2>{count ? `${plural(count, "task")} won’t be done in time` : "Every open task can be done in time"}</h2>
				{count > 0 && <p className="second">Move them to another day, hand them over, or drop them.</p>}
				{rows.length > 0 && (
					<TaskTable
						of="Tasks that won’t be done in time"
						rows={rows}
						today={today}
						mayChange={() => mayChange}
						headings={headings}
						{...(mayChange ? { marked, onMark: mark } : {})}
					/>
				)}
				{at < count && <p className="second small-text mt-1">The first {grouped(at)} are shown.</p>}
				<ManyTasks ids={rows.filter(({ id }) => marked.has(id)).map(({ id }) => id)} people={people} today={today} onDone={() => setMarked(new Set())} />
			</section>
			<section aria-label="Follow-through" className="mt-4">
				<h2>{headline(view, period)}</h2>
				<p className="second">
					Tasks given to {whose === "My" ? "me" : whose.replace(/’s$/, "")} in {period}. A flag that clears after a task didn’t necessarily clear because of it.
				</p>
				{view.set > 0 && (
					<div className="follow-tables">
						<ByRep view={view} />
						{view.flags.length > 0 && <ByFlag view={view} />}
					</div>
				)}
				{behind && <BehindFigure behind={behind} today={today} mayChange={mayChange} />}
			</section>
		</div>
	);
}

/** A count that opens the tasks that make it; nothing to open is a dot. */
function Figure({ n, behind, words }: { n: number; behind: Behind; words?: string }) {
	const address = useAddress();
	if (!n && !words) return <span className="third">·</span>;
	return (
		<Link href={`${address("/tasks", { show: "follow", ...behind })}#behind`} scroll={false}>
			{words ?? n}
		</Link>
	);
}

/** The tasks that make a figure of the tables above. */
function BehindFigure({ behind, today, mayChange }: { behind: FollowedTasks; today: string; mayChange: boolean }) {
	const address = useAddress();
	const { who, became, flag, outcome, count, flags, rows } = behind;
	const words = [
		who,
		became && (became === "set" ? "all tasks given" : FOLLOWED_WORDS[became]),
		flag && (RULES.find(({ code }) => code === flag)?.name ?? flag),
		outcome && (outcome === "told" ? "cleared, deal closed or still lit" : OUTCOME_WORDS[outcome]),
	].filter(Boolean);
	return (
		<section id="behind" aria-label="Tasks behind the figure" className="mt-3">
			<h3>
				{words.join(", ") || "All"}: {flags === null ? plural(count, "task") : `${plural(flags, "flag")} of ${plural(count, "task")}`}{" "}
				<Link className="small-text fw-normal" href={address("/tasks", { show: "follow" })} scroll={false}>
					Close
				</Link>
			</h3>
			{rows.length > 0 ? <TaskTable of="Tasks behind the figure" rows={rows} today={today} mayChange={() => mayChange} /> : <p className="second">No tasks.</p>}
			{rows.length < count && <p className="second small-text mt-1">The first {grouped(rows.length)} are shown.</p>}
		</section>
	);
}

type Counts = Pick<FollowThroughJson, Followed | "set" | "outcomes">;

type RepCounts = Counts & { readonly id: string; readonly name: string };

/** What became of the tasks of each rep, those with most first. */
function ByRep({ view }: { view: FollowThroughJson }) {
	const total: RepCounts = { ...view, id: "", name: "Total" };
	const of = ({ id }: RepCounts) => (id ? { of: id } : {});
	return (
		<DataTable
			of="Tasks by rep"
			tableClass=""
			rows={[...view.people].sort((a, b) => b.set - a.set)}
			totals={view.people.length > 1 ? [total] : []}
			rowKey={({ id }) => id}
			rowClass={({ id }) => (id ? undefined : "total")}
			columns={[
				{ key: "rep", label: "Rep", names: true, by: ({ name }) => name, cell: ({ name }) => name },
				{ key: "set", label: "Given", num: true, by: ({ set }) => set, cell: (row) => <Figure n={row.set} behind={{ ...of(row), became: "set" }} /> },
				...(Object.keys(FOLLOWED_WORDS) as Followed[]).map((kind) => ({
					key: kind,
					label: FOLLOWED_WORDS[kind],
					num: true,
					by: (row: RepCounts) => row[kind],
					cell: (row: RepCounts) => (
						<span className={kind === "overdue" && row.overdue ? "worse" : ""}>
							<Figure n={row[kind]} behind={{ ...of(row), became: kind }} />
						</span>
					),
				})),
				{
					key: "cleared",
					label: "Flags cleared",
					num: true,
					by: ({ outcomes }) => (toldOf(outcomes) ? outcomes.out / toldOf(outcomes) : null),
					cell: (row) => {
						const told = toldOf(row.outcomes);
						return (
							told > 0 && (
								<>
									<Figure n={row.outcomes.out} words={String(row.outcomes.out)} behind={{ ...of(row), outcome: "out" }} /> of{" "}
									<Figure n={told} behind={{ ...of(row), outcome: "told" }} />
								</>
							)
						);
					},
				},
			]}
		/>
	);
}

/** What became of each flag that tasks were given for. */
function ByFlag({ view }: { view: FollowThroughJson }) {
	const total = { ...view.outcomes, code: "" };
	return (
		<DataTable
			of="Outcomes by flag"
			tableClass=""
			rows={view.flags}
			totals={[total]}
			rowKey={({ code }) => code}
			rowClass={({ code }) => (code ? undefined : "total")}
			columns={[
				{ key: "flag", label: "Flag", names: true, by: ({ code }) => nameOf(code), cell: ({ code }) => (code ? nameOf(code) : "Total") },
				...SHOWN.map((state) => ({
					key: state,
					label: OUTCOME_WORDS[state],
					num: true,
					by: (row: typeof total) => row[state],
					cell: (row: typeof total) => <Figure n={row[state]} behind={{ ...(row.code ? { flag: row.code } : {}), outcome: state }} />,
				})),
			]}
		/>
	);
}

const nameOf = (code: string) => RULES.find((rule) => rule.code === code)?.name ?? code;

/** Of how many flags it can be told whether they went out: those that were lit, and whose time is over. */
const toldOf = ({ out, closed, lit }: FollowThroughJson["outcomes"]) => out + closed + lit;

/** A finding in a sentence. */
function headline(view: FollowThroughJson, period: string): string {
	if (!view.set) return `No tasks were given in ${period}`;
	const done = view.onTime + view.late;
	const told = toldOf(view.outcomes);
	const kept = done ? `${view.onTime} of ${plural(done, "task")} done on time` : `${plural(view.set, "task")} given, none done yet`;
	return told ? `${kept}; ${view.outcomes.out} of ${plural(told, "flag")} cleared` : kept;
}
