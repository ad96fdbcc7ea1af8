"use client";
import { type RefObject, useEffect, useRef, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { type Call, callKind } from "@/core/rounds/calls";
import { DayField } from "@/ui/parts/DayField";
import type { Input } from "@/ui/run";
import type { QueueDeal, RoundCurrent, RoundView } from "../server/readRound";

interface FormProps {
	readonly call: Call;
	readonly view: RoundView;
	readonly deal: QueueDeal;
	readonly current: RoundCurrent;
	readonly onSay: (more: Pick<Input<"rounds.call">, "to" | "why" | "competitor" | "leave">) => Promise<void>;
	readonly onLeave: () => void;
}

/** The day and why of what moves, the reason and competitor of what is gone; and what is done about it. */
export function CallForm({ call, view, deal, current, onSay, onLeave }: FormProps) {
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
					{callKind(call).label}
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
