"use client";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Alert, Button, Form, Modal, Spinner } from "react-bootstrap";
import { byCount, plural } from "@/core/words/grammar";
import type { Give } from "@/features/deals/ui/slots";
import { shortDate } from "@/ui/format";
import { useNotice } from "@/ui/Notices";
import { useRun } from "@/ui/run";
import { useRefresh } from "@/ui/useAct";
import { GiveLines } from "./GiveLines";
import { GiveOptions } from "./GiveOptions";
import { type Draft, type Giving, type Line, linesOf, NOTHING, startOf, WAYS, type Way } from "./giving";
import "./tasks.css";
import { Text } from "./GiveText";

/** Gives tasks: one text for all, each deal its own remedy, or a kit. Says who gets what before anything is written, and can be undone. */
export function GiveDialog({ give, onClose }: { give: Give; onClose: (done: boolean) => void }) {
	const run = useRun();
	const { data, error } = useQuery({
		queryKey: ["draft", ...give.dealIds],
		queryFn: async () => {
			const found = await run("tasks.draft", { dealIds: [...give.dealIds] });
			if (!found.ok) throw new Error(found.detail);
			return found.result;
		},
		// A refusal stays one, however often it is asked.
		retry: false,
		gcTime: 0,
		// Typing is under way while others write: what was drafted stays.
		staleTime: Number.POSITIVE_INFINITY,
	});
	return (
		<Modal show onHide={() => onClose(false)} aria-labelledby="give-title" size={give.dealIds.length > 1 ? "xl" : "lg"}>
			<GiveForm give={give} draft={data ?? NOTHING} state={data ? "ready" : error ? error.message : "looking"} onClose={onClose} />
		</Modal>
	);
}

interface FormProps {
	readonly give: Give;
	readonly draft: Draft;
	/** what is written meanwhile stays: the text is there before the deals were looked at; other words are why they couldn't be */
	readonly state: "looking" | "ready" | string;
	readonly onClose: (done: boolean) => void;
}

function GiveForm({ give, draft, state, onClose }: FormProps) {
	// Long: one form, its fields in their order.
	const [chosen, setGiving] = useState<Giving>(() => startOf(give));
	const giving = { ...chosen, due: chosen.due || draft.due, kit: chosen.kit || (draft.kits[0]?.id ?? "") };
	const [error, setError] = useState<string | null>(null);
	const [waiting, setWaiting] = useState(false);
	const run = useRun();
	const notice = useNotice();
	const refresh = useRefresh();
	const set = (part: Partial<Giving>) => setGiving((now) => ({ ...now, ...part }));
	const there = state === "ready";
	const lines = there ? linesOf(draft, giving) : [];
	const ready = lines.filter((line) => line.title.trim() && !line.left);
	const several = give.dealIds.length > 1 || giving.way !== "one";
	const [deal] = draft.deals;

	const send = async () => {
		setWaiting(true);
		setError(null);
		const done = await run("tasks.giveEach", { lines: ready.map(sent) });
		setWaiting(false);
		if (!done.ok) return setError(done.detail);
		const given = done.result.tasks;
		notice({
			words: `${byCount(given.length, "Task given", `${given.length} tasks given`)}, due ${dueWords(given.map(({ dueOn }) => dueOn ?? ""))}.`,
			undo: async () => {
				await run("tasks.takeBack", { ids: given.map((task) => task.id) });
				refresh();
			},
		});
		refresh();
		onClose(true);
	};

	return (
		<Form
			onSubmit={(event) => {
				event.preventDefault();
				void send();
			}}
		>
			<Modal.Header closeButton>
				<Modal.Title id="give-title">
					{give.dealIds.length > 1 ? `Tasks for ${give.dealIds.length} deals` : deal ? `A task for ${deal.name}` : "A task"}
				</Modal.Title>
			</Modal.Header>
			<Modal.Body>
				{error && (
					<Alert variant="danger" className="mb-3" role="alert">
						{error}
					</Alert>
				)}
				{deal && <Ways draft={draft} giving={giving} set={set} />}
				{giving.way === "one" && <Text giving={giving} set={set} fields={give.dealIds.length > 1} />}
				{there ? <GiveOptions draft={draft} giving={giving} set={set} /> : <NotYet state={state} />}
				{several ? <GiveLines draft={draft} giving={giving} lines={lines} set={set} /> : <Goes lines={lines} draft={draft} />}
				{draft.deals.some(({ open }) => !open) && (
					<p className="second small-text mt-2 mb-0">{plural(draft.deals.filter(({ open }) => !open).length, "deal")} closed since: no task is given there.</p>
				)}
				<Warnings lines={ready} draft={draft} />
			</Modal.Body>
			<Modal.Footer>
				<Button variant="link" onClick={() => onClose(false)}>
					Cancel
				</Button>
				<Button type="submit" disabled={waiting || !ready.length}>
					{waiting ? "Giving …" : ready.length > 1 ? `Give ${ready.length} tasks` : "Give task"}
				</Button>
			</Modal.Footer>
		</Form>
	);
}

function NotYet({ state }: { state: string }) {
	return state === "looking" ? (
		<p className="second mb-0" role="status">
			<Spinner as="span" size="sm" /> Loading the deals …
		</p>
	) : (
		<Alert variant="danger" role="alert" className="mb-0">
			{state}
		</Alert>
	);
}

const sent = ({ dealId, title, dueOn, assigneeId, team, flags, options }: Line) => ({
	dealId,
	title,
	dueOn,
	...(assigneeId === null ? {} : { assigneeId }),
	...(team === null ? {} : { team }),
	flags: [...flags],
	...options,
	checklist: [...options.checklist],
});

function dueWords(days: readonly string[]): string {
	const [first = "", ...rest] = [...new Set(days)].sort();
	return rest.length ? `${shortDate(first)} to ${shortDate(rest.at(-1) ?? "")}` : shortDate(first);
}

/** One text, each its own remedy, or a kit. */
function Ways({ draft, giving, set }: { draft: Draft; giving: Giving; set: (part: Partial<Giving>) => void }) {
	const ways = WAYS.filter(({ key }) => key !== "kit" || draft.kits.length > 0);
	return (
		<div className="give-ways" role="radiogroup" aria-label="Tasks">
			{ways.map(({ key, label }) => (
				<Form.Check
					key={key}
					inline
					type="radio"
					id={`give-way-${key}`}
					name="give-way"
					label={label}
					checked={giving.way === key}
					onChange={() => set({ way: key as Way, edits: {} })}
				/>
			))}
			{giving.way === "kit" && (
				<Form.Select size="sm" value={giving.kit} aria-label="Kit" onChange={(event) => set({ kit: event.target.value, edits: {} })}>
					{draft.kits.map((kit) => (
						<option key={kit.id} value={kit.id}>
							{kit.name}
						</option>
					))}
				</Form.Select>
			)}
		</div>
	);
}

/** To whom, where there is one line only. */
function Goes({ lines, draft }: { lines: readonly Line[]; draft: Draft }) {
	const [line] = lines;
	if (!line) return null;
	const gone = draft.deals.find(({ id }) => id === line.dealId && line.assigneeId === null && line.team === null);
	return (
		<p className="mb-1">
			Goes to {line.who}.{gone && !gone.ownerActive && <b className="worse"> No current employee owns {gone.name}: the task goes to you.</b>}
		</p>
	);
}

function Warnings({ lines, draft }: { lines: readonly Line[]; draft: Draft }) {
	const late = lines.filter((line) => line.close !== null && line.close < line.dueOn);
	const free = [...new Set(lines.map(({ dueOn }) => dueOn))].filter(
		(day) => day >= draft.today && day <= (draft.days.at(-1) ?? "") && !draft.days.includes(day),
	);
	if (!late.length && !free.length) return null;
	return (
		<Alert variant="warning" className="small-text mt-2 mb-0">
			{late.length > 0 && (
				<div>
					Due after the close date of{" "}
					{late
						.slice(0, 3)
						.map((line) => `${line.deal} (${shortDate(line.close)})`)
						.join(", ")}
					{late.length > 3 ? ` and ${late.length - 3} more` : ""}.
				</div>
			)}
			{free.length > 0 && (
				<div>
					{free.map((day) => shortDate(day)).join(", ")} {plural(free.length, "is no working day", "are no working days").replace(/^\d+ /, "")}.
				</div>
			)}
		</Alert>
	);
}
