"use client";
import { useState } from "react";
import { Alert, Button, Form } from "react-bootstrap";
import { spaced } from "@/ui/format";
import { useNotice } from "@/ui/Notices";
import { DayField } from "@/ui/parts/DayField";
import { type Result, useRun } from "@/ui/run";
import { useRefresh } from "@/ui/useAct";
import { type Doing, type Log, settleTask } from "./settleTask";

type Detail = Result<"tasks.detail">;
const WORDS: Readonly<Record<Doing, string>> = {
	done: "Done",
	log: "Log and done",
	moved: "Change due day",
	handed: "Hand over",
	back: "Hand back",
	dropped: "Drop",
};

/** What is done with an open task: one thing at a time, each with what it needs, and each can be undone. */
export function SettleForm({ detail, today, onDone }: { detail: Detail; today: string; onDone: () => void }) {
	// Long: one form, its fields in their order.
	const { row, own } = detail;
	const [doing, setDoing] = useState<Doing>(row.asks ? "log" : "done");
	const [note, setNote] = useState("");
	const [day, setDay] = useState(row.dueOn && row.dueOn > today ? row.dueOn : today);
	const [who, setWho] = useState(detail.people.find(({ id }) => id !== row.assigneeId)?.id ?? "");
	const [log, setLog] = useState<Log>({ kind: row.asks ?? detail.kinds[0] ?? "", direction: "both", subject: "", contactId: "" });
	const { error, waiting, settle } = useSettle((run) => settleTask(run, row, doing, { note: note.trim(), day, who, log }), doing, onDone);
	const ways: Doing[] = [
		"done",
		...(row.dealId || row.accountId ? (["log"] as const) : []),
		"moved",
		...(detail.people.length > 1 ? (["handed"] as const) : []),
		...(own && row.createdById !== row.assigneeId ? (["back"] as const) : []),
		"dropped",
	];

	return (
		<Form
			className="settle"
			onSubmit={(event) => {
				event.preventDefault();
				void settle();
			}}
		>
			<div className="btn-group flex-wrap mb-2" role="group" aria-label="Action">
				{ways.map((way) => (
					<Button key={way} size="sm" variant={way === doing ? "primary" : "outline-primary"} aria-pressed={way === doing} onClick={() => setDoing(way)}>
						{WORDS[way]}
					</Button>
				))}
			</div>
			{error && (
				<Alert variant="danger" role="alert" className="mb-2">
					{error}
				</Alert>
			)}
			{doing === "log" && <LogFields detail={detail} log={log} set={setLog} />}
			{doing === "moved" && <DayField size="sm" className="mb-2" aria-label="Due on" min={today} required value={day} onDay={(day) => setDay(day)} />}
			{doing === "handed" && (
				<Form.Select size="sm" className="mb-2" aria-label="To" value={who} onChange={(event) => setWho(event.target.value)}>
					{detail.people
						.filter(({ id }) => id !== row.assigneeId)
						.map(({ id, name }) => (
							<option key={id} value={id}>
								{name}
							</option>
						))}
				</Form.Select>
			)}
			<Form.Control
				as="textarea"
				rows={2}
				size="sm"
				aria-label={NOTES[doing]}
				placeholder={NOTES[doing]}
				value={note}
				required={doing === "back"}
				maxLength={doing === "done" || doing === "log" ? 10_000 : 500}
				onChange={(event) => setNote(event.target.value)}
			/>
			<div className="text-end mt-2">
				<Button type="submit" disabled={waiting || (doing === "back" && !note.trim())}>
					{waiting ? "Saving …" : SAID[doing]}
				</Button>
			</div>
		</Form>
	);
}

/** Does what was chosen with a task, and offers to undo it. */
function useSettle(send: (run: ReturnType<typeof useRun>) => ReturnType<typeof settleTask>, doing: Doing, onDone: () => void) {
	const [error, setError] = useState<string | null>(null);
	const [waiting, setWaiting] = useState(false);
	const run = useRun();
	const notice = useNotice();
	const refresh = useRefresh();
	const settle = async () => {
		setWaiting(true);
		const done = await send(run);
		setWaiting(false);
		if (!done.ok) return setError(done.detail);
		const { changes, words } = done.result;
		const undo = async () => {
			const back = await run("tasks.undoChanges", { changes: [...changes] });
			if (!back.ok) notice({ words: back.detail });
			else if (doing === "log") notice({ words: "Task reopened; the logged activity stays on the deal." });
			refresh();
		};
		notice({ words, ...(changes.length ? { undo } : {}) });
		refresh();
		onDone();
	};
	return { error, waiting, settle };
}

const NOTES: Readonly<Record<Doing, string>> = {
	done: "How did it go? A sentence is enough.",
	log: "What was said",
	moved: "Reason (optional)",
	handed: "Reason (optional)",
	back: "Reason for handing it back",
	dropped: "Reason for dropping it",
};
const SAID: Readonly<Record<Doing, string>> = {
	done: "Mark done",
	log: "Log and mark done",
	moved: "Save new day",
	handed: "Hand over task",
	back: "Hand back task",
	dropped: "Drop task",
};

/** What is logged with a task that was done by talking to somebody. */
function LogFields({ detail, log, set }: { detail: Detail; log: Log; set: (log: Log) => void }) {
	const { row } = detail;
	return (
		<div className="settle-log">
			<Form.Select size="sm" aria-label="Kind" value={log.kind} onChange={(event) => set({ ...log, kind: event.target.value })}>
				{detail.kinds.map((kind) => (
					<option key={kind} value={kind}>
						{spaced(kind)}
					</option>
				))}
			</Form.Select>
			<Form.Select size="sm" aria-label="Direction" value={log.direction} onChange={(event) => set({ ...log, direction: event.target.value })}>
				<option value="both">both spoke</option>
				<option value="out">from us</option>
				<option value="in">from them</option>
				<option value="none">internal</option>
			</Form.Select>
			{detail.contacts.length > 0 && (
				<Form.Select size="sm" aria-label="With" value={log.contactId} onChange={(event) => set({ ...log, contactId: event.target.value })}>
					<option value="">no one named</option>
					{detail.contacts.map(({ id, name }) => (
						<option key={id} value={id}>
							{name}
						</option>
					))}
				</Form.Select>
			)}
			<Form.Control
				size="sm"
				aria-label="Subject"
				placeholder={row.title}
				maxLength={500}
				value={log.subject}
				onChange={(event) => set({ ...log, subject: event.target.value })}
			/>
		</div>
	);
}
