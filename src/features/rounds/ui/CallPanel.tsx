"use client";
import { useEffect, useRef, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { useHotkeys } from "react-hotkeys-hook";
import { CALL_WORDS, CALLS, type Call } from "@/core/rounds/call";
import { shortDate, spaced } from "@/ui/format";
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
	const [asking, setAsking] = useState<"moves" | "gone" | null>(null);
	const run = useRun();
	const act = useAct();
	const open = deal.status === "open";
	const may = view.mayHold && open;
	const ask = (call: "moves" | "gone" | null) => {
		setAsking(call);
		onAside(call !== null);
	};
	const say = (call: Call) => {
		if (!may) return;
		if (call === "moves" || call === "gone") return ask(call);
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
		// biome-ignore lint/correctness/useHookAtTopLevel: the calls are always the same four
		useHotkeys(String(i + 1), () => say(call), keys, [deal, view, asking]);
	});
	const back = () => deal.newest !== null && act(run("rounds.takeCallBack", { id: view.id, dealId: deal.id, seen: deal.newest }), "The call is taken back.");
	return (
		<aside className="panel call-panel" aria-label="The call">
			<h3>{view.mayHold ? "Your call" : "The call"}</h3>
			<p className="small-text second mb-2">
				{deal.owner} says <b>{spaced(deal.category) || "nothing"}</b>
				{deal.close && <>, due {shortDate(deal.close)}</>}
			</p>
			{!open && <p className="small-text worse">It is {deal.status} since; there is nothing to call.</p>}
			<div className="calls" role="group" aria-label="Call it">
				{CALLS.map((call, i) => (
					<button key={call} type="button" className="call" aria-pressed={(asking ?? deal.call?.call) === call} disabled={!may} onClick={() => say(call)}>
						<b>{CALL_WORDS[call].words}</b>
						<span className="tiny">{CALL_WORDS[call].means}</span>
						<span className="call-key" aria-hidden="true">
							{i + 1}
						</span>
					</button>
				))}
			</div>
			{asking && !current && <p className="small-text second">The deal is being read …</p>}
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
					{deal.call.left === "deal" ? "Done to the deal. " : deal.call.left === "task" ? "Left as a promise. " : ""}
					{deal.call.by}.{" "}
					{may && (
						<button type="button" className="plain-button tiny text-decoration-underline" onClick={() => void back()}>
							Take it back
						</button>
					)}
				</p>
			)}
			{waits && <p className="small-text worse mb-1">This call waits to be sent.</p>}
			<section>
				<h3>Promised now</h3>
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
			<p className="tiny second mt-2 mb-0 no-print">1–4 call · J next · K back · T promise · N note · E change · S sheet</p>
		</aside>
	);
}

interface FormProps {
	readonly call: "moves" | "gone";
	readonly view: RoundView;
	readonly deal: QueueDeal;
	readonly current: RoundCurrent;
	readonly onSay: (more: Pick<Input<"rounds.call">, "to" | "why" | "competitor" | "leave">) => Promise<void>;
	readonly onLeave: () => void;
}

/** The day and why of what moves, the reason and competitor of what is gone; and what is done about it. */
function CallForm({ call, view, deal, current, onSay, onLeave }: FormProps) {
	const { sheet } = current;
	const reasons = sheet.choices.reasons;
	const [to, setTo] = useState("");
	const [why, setWhy] = useState(call === "gone" ? (reasons[0] ?? "") : "");
	const [competitor, setCompetitor] = useState(sheet.competitor ?? "");
	const [leave, setLeave] = useState<"none" | "deal" | "task">("deal");
	const [waiting, setWaiting] = useState(false);
	const first = useRef<HTMLInputElement & HTMLSelectElement>(null);
	useEffect(() => first.current?.focus({ preventScroll: true }), []);
	const name = `leave-${view.id}-${deal.id}`;
	return (
		<form
			className="round-form"
			aria-label={call === "moves" ? "When it closes instead" : "Why it is gone"}
			onKeyDown={(event) => event.key === "Escape" && onLeave()}
			onSubmit={async (event) => {
				event.preventDefault();
				setWaiting(true);
				await onSay({ why, leave, ...(call === "moves" ? { to } : competitor ? { competitor } : {}) });
				setWaiting(false);
			}}
		>
			{call === "moves" ? (
				<>
					<Form.Label className="small-text mb-0">
						New close date
						<Form.Control ref={first} size="sm" type="date" required min={sheet.seen} value={to} onChange={(event) => setTo(event.target.value)} />
					</Form.Label>
					<Form.Label className="small-text mb-0">
						Why
						<Form.Control size="sm" required maxLength={500} value={why} onChange={(event) => setWhy(event.target.value)} />
					</Form.Label>
				</>
			) : (
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
							placeholder="nobody, or a competitor"
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
			)}
			<fieldset className="small-text">
				<legend className="visually-hidden">What is done about it</legend>
				<Form.Check
					type="radio"
					id={`${name}-deal`}
					name={name}
					label={call === "moves" ? "change the deal now" : "close the deal now"}
					checked={leave === "deal"}
					onChange={() => setLeave("deal")}
				/>
				<Form.Check
					type="radio"
					id={`${name}-task`}
					name={name}
					label={`leave it for ${sheet.owner}`}
					checked={leave === "task"}
					onChange={() => setLeave("task")}
				/>
				<Form.Check type="radio" id={`${name}-none`} name={name} label="only say it" checked={leave === "none"} onChange={() => setLeave("none")} />
			</fieldset>
			<span className="d-flex gap-2">
				<Button size="sm" type="submit" disabled={waiting}>
					{CALL_WORDS[call].words}
				</Button>
				<Button size="sm" variant="link" onClick={onLeave}>
					Leave it
				</Button>
			</span>
		</form>
	);
}
