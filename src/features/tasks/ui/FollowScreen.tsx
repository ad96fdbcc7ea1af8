"use client";
import Link from "next/link";
import { useState } from "react";
import { RULES } from "@/core/flags/list";
import type { Followed } from "@/core/tasks/followThrough";
import type { OutcomeState } from "@/core/tasks/outcome";
import { plural } from "@/core/words/grammar";
import { grouped } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import { Scrolls } from "@/ui/parts/Scrolls";
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
						<Scrolls of="Tasks by rep" className="panel p-0">
							<table className="table">
								<caption className="visually-hidden">Tasks by rep</caption>
								<thead>
									<tr>
										<th scope="col">Rep</th>
										<th scope="col" className="num">
											Given
										</th>
										{(Object.keys(FOLLOWED_WORDS) as Followed[]).map((kind) => (
											<th key={kind} scope="col" className="num">
												{FOLLOWED_WORDS[kind]}
											</th>
										))}
										<th scope="col" className="num">
											Flags cleared
										</th>
									</tr>
								</thead>
								<tbody>
									{[...view.people]
										.sort((a, b) => b.set - a.set)
										.map((person) => (
											<PersonRow key={person.id} of={person.id} name={person.name} counts={person} />
										))}
									{view.people.length > 1 && <PersonRow name="Total" counts={view} total />}
								</tbody>
							</table>
						</Scrolls>
						{view.flags.length > 0 && (
							<Scrolls of="Outcomes by flag" className="panel p-0">
								<table className="table">
									<caption className="visually-hidden">Outcomes by flag</caption>
									<thead>
										<tr>
											<th scope="col">Flag</th>
											{SHOWN.map((state) => (
												<th key={state} scope="col" className="num">
													{OUTCOME_WORDS[state]}
												</th>
											))}
										</tr>
									</thead>
									<tbody>
										{view.flags.map((flag) => (
											<tr key={flag.code}>
												<th scope="row">{RULES.find(({ code }) => code === flag.code)?.name ?? flag.code}</th>
												{SHOWN.map((state) => (
													<td key={state} className="num">
														<Figure n={flag[state]} behind={{ flag: flag.code, outcome: state }} />
													</td>
												))}
											</tr>
										))}
										<tr className="total">
											<th scope="row">Total</th>
											{SHOWN.map((state) => (
												<td key={state} className="num">
													<Figure n={view.outcomes[state]} behind={{ outcome: state }} />
												</td>
											))}
										</tr>
									</tbody>
								</table>
							</Scrolls>
						)}
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

function PersonRow({ of, name, counts, total = false }: { of?: string; name: string; counts: Counts; total?: boolean }) {
	const told = toldOf(counts.outcomes);
	return (
		<tr className={total ? "total" : ""}>
			<th scope="row">{name}</th>
			<td className="num">
				<Figure n={counts.set} behind={{ of, became: "set" }} />
			</td>
			{(Object.keys(FOLLOWED_WORDS) as Followed[]).map((kind) => (
				<td key={kind} className={`num ${kind === "overdue" && counts.overdue ? "worse" : ""}`}>
					<Figure n={counts[kind]} behind={{ of, became: kind }} />
				</td>
			))}
			<td className="num">
				{told ? (
					<>
						<Figure n={counts.outcomes.out} words={String(counts.outcomes.out)} behind={{ of, outcome: "out" }} /> of{" "}
						<Figure n={told} behind={{ of, outcome: "told" }} />
					</>
				) : (
					""
				)}
			</td>
		</tr>
	);
}

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
