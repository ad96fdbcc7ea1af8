"use client";
import Link from "next/link";
import type { ReactNode } from "react";
import type { Light } from "@/core/attention/attention";
import { byCount, plural } from "@/core/words/grammar";
import type { DealRow } from "@/features/deals/table/row";
import type { Preparation } from "@/features/rounds/server/preparation";
import { Preparing } from "@/features/rounds/ui/Preparing";
import type { DeskTasks } from "@/features/tasks/server/readTasks";
import { GiveButton } from "@/features/tasks/ui/GiveButton";
import { TaskTable } from "@/features/tasks/ui/TaskTable";
import { dayNumber, money, nearDate } from "@/ui/format";
import { FlagChip } from "@/ui/parts/FlagChip";
import { Lamp } from "@/ui/parts/Lamp";
import type { LeadDesk } from "../server/leadView";
import type { Mention } from "../server/readMentions";
import { Lead } from "./Lead";
import "@/features/tasks/ui/tasks.css";
import "./desk.css";

interface Props {
	readonly tasks: DeskTasks;
	readonly lit: readonly DealRow[];
	readonly news: ReactNode;
	/** notes of the last weeks that call on the person */
	readonly mentions: readonly Mention[];
	/** all open deals of the person */
	readonly open: number;
	readonly currency: string;
	readonly today: string;
	readonly mayChange: boolean;
	/** what the next round will ask; null where they are asked nothing */
	readonly preparation: Preparation | null;
	/** what waits for a manager; null for everybody else */
	readonly lead: LeadDesk | null;
}

const DAYS_AHEAD = 7;

/** What do I do today, and what will I be asked? */
export function DeskScreen({ tasks, lit, news, mentions, open, currency, today, mayChange, preparation, lead }: Props) {
	const [mine, over] = [tasks.own.filter((task) => task.state === "open"), dayNumber(today) + DAYS_AHEAD];
	const late = mine.filter((task) => task.overdue);
	const now = mine.filter((task) => !task.overdue && (task.dueOn ?? today) <= today);
	const soon = mine.filter((task) => task.dueOn !== null && task.dueOn > today && dayNumber(task.dueOn) <= over);
	const later = mine.filter((task) => task.dueOn !== null && dayNumber(task.dueOn) > over);
	const done = tasks.own
		.filter((task) => task.state !== "open")
		.sort((a, b) => (b.doneAt ?? "").localeCompare(a.doneAt ?? ""))
		.slice(0, 5);
	const change = () => mayChange;
	const list = { today, mayChange: change, own: true };
	return (
		<div className="desk">
			<div>
				{lead && <Lead desk={lead} />}
				{late.length > 0 && (
					<>
						<h2>{plural(late.length, "task")} overdue</h2>
						<TaskTable of="Overdue tasks" rows={late} today={today} mayChange={change} own />
					</>
				)}
				<div className={`desk-head ${late.length ? "mt-4" : ""}`}>
					<h2>Today</h2>
					<GiveButton dealIds={[]}>New task</GiveButton>
				</div>
				{now.length ? (
					<TaskTable of="Today’s tasks" rows={now} today={today} mayChange={change} own />
				) : (
					<p className="panel second">Nothing is due today{late.length ? "." : soon.length + later.length ? ", and nothing is late." : "."}</p>
				)}
				<h2 className="mt-4">Within a week</h2>
				{soon.length ? (
					<TaskTable of="Tasks within a week" rows={soon} today={today} mayChange={change} own />
				) : (
					<p className="panel second">No tasks in the coming week.</p>
				)}
				<Listed title="Later" of="Later tasks" rows={later} {...list} />
				{preparation && <Preparing preparation={preparation} today={today} mayChange={mayChange} />}
				<Listed title="Anyone on my team can take" of="Tasks to take" rows={tasks.toTake} {...list} />
				<Listed title="Tasks I gave to others" of="Tasks I gave to others" rows={tasks.asked} {...list} own={false} />
				{mentions.length > 0 && !lead && <Mentions mentions={mentions} today={today} />}
				<Listed title="Recently done" of="Recently done tasks" rows={done} {...list} />
			</div>
			<div>
				{news}
				{open > 0 && (
					<h2 className="mt-4">
						{lit.length} of my {open} open deals {byCount(lit.length, "is", "are")} lit
					</h2>
				)}
				{open > 0 && lit.length === 0 && <p className="panel second">None of your deals is lit.</p>}
				<LitDeals lit={lit} currency={currency} today={today} />
			</div>
		</div>
	);
}

/** Some of the tasks under a heading; nothing where there are none. */
function Listed({ title, ...table }: { title: string } & Parameters<typeof TaskTable>[0]) {
	if (!table.rows.length) return null;
	return (
		<>
			<h2 className="mt-4">{title}</h2>
			<TaskTable {...table} />
		</>
	);
}

function Mentions({ mentions, today }: Pick<Props, "mentions" | "today">) {
	return (
		<>
			<h2 className="mt-4">Notes that mention me</h2>
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
	);
}

/** My lit deals, each with what is wrong with it. */
function LitDeals({ lit, currency, today }: Pick<Props, "lit" | "currency" | "today">) {
	return (
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
	);
}
