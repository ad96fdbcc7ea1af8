"use client";
import { type RefObject, useEffect, useRef, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { useHotkeys } from "react-hotkeys-hook";
import { CALLS, type Call, callKind } from "@/core/rounds/calls";
import { shortDate, spaced } from "@/ui/format";
import { DayField } from "@/ui/parts/DayField";
import { Term } from "@/ui/parts/Term";
import { type Input, useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { QueueDeal, RoundCurrent, RoundView } from "../server/readRound";
import { PromiseLine } from "./DealPane";
import { PromiseForm } from "./PromiseForm";
import { RoundNote } from "./RoundNote";

interface Props {
	readonly view: RoundView;
	readonly deal: QueueDeal;
	/** null while it is being read: it is called by what the queue says of it */
	readonly current: RoundCurrent | null;
	readonly send: (call: Input<"rounds.call">) => Promise<boolean>;
	readonly onDone: () => void;
	/** something else has the keys: a form is open */
	readonly onAside: (aside: boolean) => void;
	/** its call waits to be sent */
	readonly waits: boolean;
}

/** The call on a deal, beside what its rep says; what is promised, and a note. */
export function CallPanel({ view, deal, current, send, onDone, onAside, waits }: Props) {
	const [asking, setAsking] = useState<Call | null>(null);
	const run = useRun();
	const act = useAct();
	const open = deal.status === "open";
	const may = view.mayHold && open;
	const ask = (call: Call | null) => {
		setAsking(call);
		onAside(call !== null);
	};
	const say = (call: Call) => {
		if (!may) return;
		if (callKind(call).asks) return ask(call);
		void send({ id: view.id, dealId: deal.id, call, seen: deal.newest });
		onDone();
	};
	const keys = {
		enabled: may && asking === null,
		enableOnFormTags: false,
		preventDefault: true,
		ignoreEventWhen: (event: KeyboardEvent) => (event.target as HTMLElement).closest(".question") !== null,
	};
	CALLS.forEach((call, i) => {
		// biome-ignore lint/correctness/useHookAtTopLevel: the calls are always the same
		useHotkeys(String(i + 1), () => say(call), keys, [deal, view, asking]);
	});
	const back = () => deal.newest !== null && act(run("rounds.takeCallBack", { id: view.id, dealId: deal.id, seen: deal.newest }), "Call undone.");
	return (
		<aside className="panel call-panel" aria-label="The call">
			<h3>
				{view.mayHold ? "Your " : "The "}
				<Term of="call">call</Term>
			</h3>
			<p className="small-text second mb-2">
				{deal.owner} says <b>{spaced(deal.category) || "nothing"}</b>
				{deal.close && <>, due {shortDate(deal.close)}</>}
			</p>
			{!open && <p className="small-text worse">It is {deal.status} since, so it can’t be called.</p>}
			<div className="calls" role="group" aria-label="Call">
				{CALLS.map((call, i) => (
					<button key={call} type="button" className="call" aria-pressed={(asking ?? deal.call?.call) === call} disabled={!may} onClick={() => say(call)}>
						<b>{callKind(call).words}</b>
						<span className="tiny">{callKind(call).means}</span>
						<span className="call-key" aria-hidden="true">
							{i + 1}
						</span>
					</button>
				))}
			</div>
			{asking && !current && <p className="small-text second">Loading the deal …</p>}
			{asking && current && (
				<CallForm
					call={asking}
					view={view}
					deal={deal}
					current={current}
					onLeave={() => ask(null)}
					onSay={async (more) => {
						if (!(await send({ id: view.id, dealId: deal.id, call: asking, seen: deal.newest, ...more }))) return;
						ask(null);
						onDone();
					}}
				/>
			)}
			{deal.call && !asking && (
				<p className="small-text second mb-1">
					{deal.call.to && `To ${shortDate(deal.call.to)}. `}
					{deal.call.why && `${deal.call.why}. `}
					{deal.call.left === "deal" ? "Deal changed. " : deal.call.left === "task" ? "Saved as a promise. " : ""}
					{deal.call.by}.{" "}
					{may && (
						<button type="button" className="plain-button tiny text-decoration-underline" onClick={() => void back()}>
							Undo call
						</button>
					)}
				</p>
			)}
			{waits && <p className="small-text worse mb-1">This call is waiting to be sent.</p>}
			<section>
				<h3>Promised in this round</h3>
				{current && current.agreed.length > 0 && (
					<ul className="rows small-text">
						{current.agreed.map((promise) => (
							<PromiseLine key={promise.id} promise={promise} names={view.flagNames} kind={view.kind} />
						))}
					</ul>
				)}
				{view.mayNote && open && current && <PromiseForm view={view} current={current} onAside={onAside} />}
			</section>
			<RoundNote view={view} deal={deal} onAside={onAside} />
			<p className="tiny second mt-2 mb-0 no-print">1–{CALLS.length} call · J next · K back · T promise · N note · E change · S sheet</p>
		</aside>
	);
}

interface FormProps {
	readonly call: Call;
	readonly view: RoundView;
	readonly deal: QueueDeal;
	readonly current: RoundCurrent;
	readonly onSay: (more: Pick<Input<"rounds.call">, "to" | "why" | "competitor" | "leave">) => Promise<void>;
	readonly onLeave: () => void;
}

/** The day and why of what moves, the reason and competitor of what is gone; and what is done about it. */
function CallForm({ call, view, deal, current, onSay, onLeave }: FormProps) {
	const { sheet } = current;
	const { asks } = callKind(call);
	const reasons = sheet.choices.reasons;
	const [to, setTo] = useState("");
	const [why, setWhy] = useState(asks === "loss" ? (reasons[0] ?? "") : "");
	const [competitor, setCompetitor] = useState(sheet.competitor ?? "");
	const [leave, setLeave] = useState<"none" | "deal" | "task">("deal");
	const [waiting, setWaiting] = useState(false);
	const first = useRef<HTMLInputElement & HTMLSelectElement>(null);
	useEffect(() => first.current?.focus({ preventScroll: true }), []);
	const name = `leave-${view.id}-${deal.id}`;
	return (
		<form
			className="round-form"
			aria-label={asks === "day" ? "New close date" : "Reason for the loss"}
			onKeyDown={(event) => event.key === "Escape" && onLeave()}
			onSubmit={async (event) => {
				event.preventDefault();
				setWaiting(true);
				await onSay({ why, leave, ...(asks === "day" ? { to } : competitor ? { competitor } : {}) });
				setWaiting(false);
			}}
		>
			{asks === "day" ? (
				<>
					<Form.Label className="small-text mb-0">
						New close date
						<DayField ref={first} size="sm" required min={sheet.seen} value={to} onDay={(day) => setTo(day)} />
					</Form.Label>
					<Form.Label className="small-text mb-0">
						Reason
						<Form.Control size="sm" required maxLength={500} value={why} onChange={(event) => setWhy(event.target.value)} />
					</Form.Label>
				</>
			) : (
				<LossFields first={first} sheet={sheet} why={why} setWhy={setWhy} competitor={competitor} setCompetitor={setCompetitor} />
			)}
			<Leave name={name} asks={asks} owner={sheet.owner} leave={leave} set={setLeave} />
			<span className="d-flex gap-2">
				<Button size="sm" type="submit" disabled={waiting}>
					{callKind(call).words}
				</Button>
				<Button size="sm" variant="link" onClick={onLeave}>
					Cancel
				</Button>
			</span>
		</form>
	);
}

interface LossProps {
	readonly first: RefObject<(HTMLInputElement & HTMLSelectElement) | null>;
	readonly sheet: RoundCurrent["sheet"];
	readonly why: string;
	readonly setWhy: (why: string) => void;
	readonly competitor: string;
	readonly setCompetitor: (competitor: string) => void;
}

/** Why a deal will be lost, and to whom. */
function LossFields({ first, sheet, why, setWhy, competitor, setCompetitor }: LossProps) {
	const { reasons } = sheet.choices;
	return (
		<>
			<Form.Label className="small-text mb-0">
				Reason
				{reasons.length ? (
					<Form.Select ref={first} size="sm" value={why} onChange={(event) => setWhy(event.target.value)}>
						{reasons.map((reason) => (
							<option key={reason}>{reason}</option>
						))}
					</Form.Select>
				) : (
					<Form.Control ref={first} size="sm" required maxLength={500} value={why} onChange={(event) => setWhy(event.target.value)} />
				)}
			</Form.Label>
			<Form.Label className="small-text mb-0">
				Lost to
				<Form.Control
					size="sm"
					maxLength={200}
					placeholder="no one, or a competitor"
					list="round-competitors"
					value={competitor}
					onChange={(event) => setCompetitor(event.target.value)}
				/>
				<datalist id="round-competitors">
					{sheet.choices.competitors.map((name) => (
						<option key={name} value={name} />
					))}
				</datalist>
			</Form.Label>
		</>
	);
}

type Left = "none" | "deal" | "task";

/** What is done about a call: at once, left to the owner as a promise, or nothing yet. */
function Leave({ name, asks, owner, leave, set }: { name: string; asks: "day" | "loss" | undefined; owner: string; leave: Left; set: (leave: Left) => void }) {
	return (
		<fieldset className="small-text">
			<legend className="visually-hidden">Next action</legend>
			<Form.Check
				type="radio"
				id={`${name}-deal`}
				name={name}
				label={asks === "day" ? "change the deal now" : "close the deal now"}
				checked={leave === "deal"}
				onChange={() => set("deal")}
			/>
			<Form.Check type="radio" id={`${name}-task`} name={name} label={`leave it to ${owner}`} checked={leave === "task"} onChange={() => set("task")} />
			<Form.Check type="radio" id={`${name}-none`} name={name} label="only record the call" checked={leave === "none"} onChange={() => set("none")} />
		</fieldset>
	);
}
