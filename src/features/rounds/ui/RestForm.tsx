"use client";
import { useEffect, useRef, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { shortDate } from "@/ui/format";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";

interface Props {
	readonly dealId: string;
	readonly today: string;
	/** gives it; else asks for it */
	readonly give: boolean;
	readonly onDone: (reason: string | null) => void;
}

/** Lets a deal rest till a day with a reason, or asks for it. */
export function RestForm({ dealId, today, give, onDone }: Props) {
	const run = useRun();
	const act = useAct();
	const [until, setUntil] = useState("");
	const [reason, setReason] = useState("");
	const first = useRef<HTMLInputElement>(null);
	useEffect(() => first.current?.focus({ preventScroll: true }), []);
	const save = async () => {
		const input = { dealId, until, reason };
		const end = (id: string) => run("rounds.endRest", { id });
		const done = give
			? await act(run("rounds.giveRest", input), `It rests till ${shortDate(until)}, or until another flag lights.`, ({ id }) => end(id))
			: await act(run("rounds.askRest", input), "Your manager is asked.", ({ id }) => end(id));
		if (done) onDone(reason);
	};
	return (
		<form
			className="round-form"
			aria-label={give ? "Let it rest" : "Ask for a rest"}
			onKeyDown={(event) => event.key === "Escape" && onDone(null)}
			onSubmit={(event) => {
				event.preventDefault();
				void save();
			}}
		>
			<Form.Label className="small-text mb-0">
				Rests till
				<Form.Control ref={first} size="sm" type="date" required min={today} value={until} onChange={(event) => setUntil(event.target.value)} />
			</Form.Label>
			<Form.Label className="small-text mb-0">
				Why
				<Form.Control
					size="sm"
					required
					maxLength={300}
					placeholder="board meets 5 Dec, known"
					value={reason}
					onChange={(event) => setReason(event.target.value)}
				/>
			</Form.Label>
			<span className="d-flex gap-2">
				<Button size="sm" type="submit">
					{give ? "Let it rest" : "Ask for it"}
				</Button>
				<Button size="sm" variant="link" onClick={() => onDone(null)}>
					Leave it
				</Button>
			</span>
		</form>
	);
}
