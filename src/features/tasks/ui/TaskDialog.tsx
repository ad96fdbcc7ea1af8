"use client";
import { useQuery } from "@tanstack/react-query";
import Link from "next/link";
import { useEffect, useState } from "react";
import { Alert, Button, Form, Modal, Spinner } from "react-bootstrap";
import { plural } from "@/core/words/grammar";
import { nearDate, shortDate } from "@/ui/format";
import { useMay } from "@/ui/frame/may";
import { type Result, useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import { IMPORTANCE_WORDS } from "../table/importance";
import { repeatWords } from "../table/repeat";
import { SettleForm } from "./SettleForm";

type Detail = Result<"tasks.detail">;

/** One task whole: what it asks, how it came to be so, what became of its flags, and everything that may be done with it. */
export function TaskDialog({ id, today, onClose }: { id: string; today: string; onClose: () => void }) {
	const mayChange = useMay("changeTask");
	// An address may name the task: the page is there first, and the dialog opens over it.
	const [there, setThere] = useState(false);
	useEffect(() => setThere(true), []);
	const run = useRun();
	const { data, error, refetch } = useQuery({
		queryKey: ["task", id],
		queryFn: async () => {
			const found = await run("tasks.detail", { id });
			if (!found.ok) throw new Error(found.detail);
			return found.result;
		},
	});
	return (
		<Modal show={there} onHide={onClose} aria-labelledby="task-dialog-title">
			<Modal.Header closeButton>
				<Modal.Title id="task-dialog-title">{data ? data.row.title : "A task"}</Modal.Title>
			</Modal.Header>
			<Modal.Body>
				{error && !data ? (
					<Alert variant="danger" role="alert" className="mb-0">
						{error.message}{" "}
						<Button variant="link" className="p-0 align-baseline" onClick={() => void refetch()}>
							Try again
						</Button>
					</Alert>
				) : data ? (
					<Whole detail={data} today={today} mayChange={mayChange} onClose={onClose} />
				) : (
					<p className="second mb-0" role="status">
						<Spinner as="span" size="sm" /> Loading the task …
					</p>
				)}
			</Modal.Body>
		</Modal>
	);
}

function Whole({ detail, today, mayChange, onClose }: { detail: Detail; today: string; mayChange: boolean; onClose: () => void }) {
	const { row } = detail;
	const open = row.state === "open";
	const may = mayChange && detail.mayChange;
	return (
		<>
			<p className="mb-2">
				{row.dealId ? <Link href={`/deals/${encodeURIComponent(row.dealId)}`}>{row.deal}</Link> : <span className="second">not about a deal</span>}{" "}
				{row.accountId ? (
					<Link href={`/accounts/${encodeURIComponent(row.accountId)}`}>{row.account}</Link>
				) : (
					row.account && <span className="second">{row.account}</span>
				)}
			</p>
			<Facts detail={detail} today={today} />
			<Checklist detail={detail} may={may && open} />
			{open && mayChange && detail.mayTake && <Take id={row.id} />}
			{open && may && <SettleForm detail={detail} today={today} onDone={onClose} />}
			<History history={detail.history} today={today} />
		</>
	);
}

function Due({ row, today }: { row: Detail["row"]; today: string }) {
	const open = row.state === "open";
	return (
		<dd>
			{nearDate(row.dueOn, today)}
			{row.overdue && <b className="worse"> overdue</b>}
			{row.close && row.dueOn && open && row.close < row.dueOn && <span className="worse"> after the close, {nearDate(row.close, today)}</span>}
			{row.dueOn && open && (
				<a className="small-text ms-2 no-print" href={`/calendar/task/${encodeURIComponent(row.id)}.ics`}>
					.ics
				</a>
			)}
			{row.moves.times > 0 && (
				<span className="second">
					{" "}
					moved {plural(row.moves.times, "time")}, {plural(row.moves.workingDays, "working day")} in all
				</span>
			)}
		</dd>
	);
}

/** Whose a task is, when it is due, what it repeats and reminds of, and what became of its flags. */
function Facts({ detail: { row, stories }, today }: { detail: Detail; today: string }) {
	return (
		<dl className="task-facts">
			<dt>For</dt>
			<dd>
				{row.assignee}
				{row.givenBy && row.givenBy !== row.assignee && <span className="second"> from {row.givenBy}</span>}, given {nearDate(row.givenOn, today)}
			</dd>
			<dt>Due</dt>
			<Due row={row} today={today} />
			{row.importance !== "usual" && (
				<>
					<dt>Importance</dt>
					<dd>{IMPORTANCE_WORDS[row.importance]}</dd>
				</>
			)}
			{row.repeat && (
				<>
					<dt>Repeats</dt>
					<dd>{repeatWords(row.repeat)}</dd>
				</>
			)}
			{row.remindOn && (
				<>
					<dt>Reminder</dt>
					<dd>
						{shortDate(row.remindOn)}
						{row.remindUnlessAnswered && ", if the buyer hasn’t answered by then"}
					</dd>
				</>
			)}
			{stories.map((story) => (
				<div key={story.code} className="task-fact">
					<dt>{story.name}</dt>
					<dd>{story.words}</dd>
				</div>
			))}
			{row.state !== "open" && (
				<>
					<dt>State</dt>
					<dd>
						{row.state} {nearDate(row.doneOn, today)}
						{row.note && <> “{row.note}”</>}
					</dd>
				</>
			)}
		</dl>
	);
}

function History({ history, today }: { history: Detail["history"]; today: string }) {
	if (!history.length) return null;
	return (
		<details className="mt-3">
			<summary className="second small-text">{plural(history.length, "change")}</summary>
			<ul className="rows small-text">
				{history.map((one) => (
					<li key={one.id}>
						<span>
							{one.label}
							{one.why && <span className="second"> “{one.why}”</span>}
						</span>
						<span className="second text-nowrap">
							{one.by}, {nearDate(one.day, today)}
						</span>
					</li>
				))}
			</ul>
		</details>
	);
}

function Checklist({ detail: { row }, may }: { detail: Detail; may: boolean }) {
	/** what was ticked here, before the answer is back */
	const [ticked, setTicked] = useState<ReadonlyMap<number, boolean>>(new Map());
	const run = useRun();
	const act = useAct();
	if (!row.checklist.length) return null;
	const list = row.checklist.map((item, i) => ({ ...item, done: ticked.get(i) ?? item.done }));
	const done = list.filter((item) => item.done).length;
	const tick = async (at: number, on: boolean) => {
		setTicked((now) => new Map(now).set(at, on));
		const kept = await act(run("tasks.change", { id: row.id, checklist: list.map((item, i) => ({ ...item, done: i === at ? on : item.done })) }));
		if (!kept) setTicked(new Map());
	};
	return (
		<fieldset className="mb-3">
			<legend className="form-label">
				Checklist, {done} of {row.checklist.length}
			</legend>
			{list.map((item, i) => (
				<Form.Check
					key={item.words}
					id={`check-${row.id}-${i}`}
					label={item.words}
					checked={item.done}
					disabled={!may}
					onChange={(event) => void tick(i, event.target.checked)}
				/>
			))}
		</fieldset>
	);
}

function Take({ id }: { id: string }) {
	const run = useRun();
	const act = useAct();
	return (
		<Button
			className="mb-3"
			onClick={() => void act(run("tasks.take", { id }), "Task taken.", ({ change }) => run("tasks.undoChanges", { changes: [change] }))}
		>
			Take task
		</Button>
	);
}
