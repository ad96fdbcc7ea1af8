"use client";
import Link from "next/link";
import type { Light } from "@/core/attention/attention";
import type { DealRow } from "@/features/deals/server/readDeals";
import type { TaskRow } from "@/features/tasks/server/readTasks";
import { TaskTable } from "@/features/tasks/ui/TaskTable";
import { money, nearDate } from "@/ui/format";
import { FlagChip } from "@/ui/parts/FlagChip";
import { Lamp } from "@/ui/parts/Lamp";
import type { Mention } from "../server/readMentions";
import "@/features/tasks/ui/tasks.css";
import "./desk.css";

interface Props {
	readonly tasks: readonly TaskRow[];
	readonly lit: readonly DealRow[];
	/** notes of the last weeks that call on the person */
	readonly mentions: readonly Mention[];
	/** all open deals of the person */
	readonly open: number;
	readonly currency: string;
	readonly today: string;
	readonly mayChange: boolean;
}

/** What do I do today, and what will I be asked? */
export function DeskScreen({ tasks, lit, mentions, open, currency, today, mayChange }: Props) {
	const now = tasks.filter((task) => task.state === "open" && (task.dueOn ?? today) <= today);
	const later = tasks.filter((task) => task.state === "open" && (task.dueOn ?? today) > today);
	const done = tasks
		.filter((task) => task.state !== "open")
		.sort((a, b) => (b.doneAt ?? "").localeCompare(a.doneAt ?? ""))
		.slice(0, 5);
	const change = () => mayChange;
	return (
		<div className="desk">
			<div>
				<h2>Today and overdue</h2>
				{now.length ? (
					<TaskTable rows={now} today={today} mayChange={change} own />
				) : (
					<p className="panel second">Nothing is due today{later.length ? ", and nothing is late." : "."}</p>
				)}
				<h2 className="mt-4">Coming up</h2>
				{later.length ? <TaskTable rows={later} today={today} mayChange={change} own /> : <p className="panel second">No tasks lie ahead.</p>}
				{mentions.length > 0 && (
					<>
						<h2 className="mt-4">Colleagues call on me</h2>
						<div className="panel py-1">
							<ul className="rows">
								{mentions.map((mention) => (
									<li key={mention.id}>
										<span>
											{mention.body}
											<span className="d-block tiny second">
												{mention.by} on <Link href={`/deals/${encodeURIComponent(mention.dealId)}`}>{mention.deal}</Link>
											</span>
										</span>
										<span className="tiny second text-nowrap">{nearDate(mention.day, today)}</span>
									</li>
								))}
							</ul>
						</div>
					</>
				)}
				{done.length > 0 && (
					<>
						<h2 className="mt-4">Done lately</h2>
						<TaskTable rows={done} today={today} mayChange={change} own />
					</>
				)}
			</div>
			<div>
				<h2>
					{lit.length} of my {open} open deals {lit.length === 1 ? "is" : "are"} lit
				</h2>
				{lit.length === 0 && <p className="panel second">None of your deals needs more than you give it.</p>}
				<ul className="desk-lit">
					{lit.map((row) => (
						<li key={row.id} className="panel">
							<div className="d-flex justify-content-between gap-2">
								<span>
									<Lamp level={row.level as Light} />{" "}
									<Link href={`/deals/${encodeURIComponent(row.id)}`}>
										<b>{row.name}</b>
									</Link>{" "}
									<span className="second">{row.account}</span>
								</span>
								<span className="text-nowrap">{money(row.amount, currency)}</span>
							</div>
							<div className="tiny second mb-1">
								{row.stage}, {row.stageAge} d · closes {nearDate(row.close, today)} · attention {row.score}
							</div>
							{row.flags.map((flag) => (
								<div key={flag.code} className="small-text desk-flag">
									<FlagChip label={flag.label} severity={flag.severity} /> {flag.reason}
								</div>
							))}
						</li>
					))}
				</ul>
			</div>
		</div>
	);
}
