"use client";
import { useEffect, useRef, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { shortDate } from "@/ui/format";
import { DayField } from "@/ui/parts/DayField";
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
			? await act(run("rounds.giveRest", input), `At rest until ${shortDate(until)}, or until another flag lights.`, ({ id }) => end(id))
			: await act(run("rounds.askRest", input), "Request sent to your manager.", ({ id }) => end(id));
		if (done) onDone(reason);
	};
	return (
		<form
			className="round-form"
			aria-label={give ? "Give rest" : "Ask for rest"}
			onKeyDown={(event) => event.key === "Escape" && onDone(null)}
			onSubmit={(event) => {
				event.preventDefault();
				void save();
			}}
		>
			<Form.Label className="small-text mb-0">
				Rest until
				<DayField ref={first} size="sm" required min={today} value={until} onDay={(day) => setUntil(day)} />
			</Form.Label>
			<Form.Label className="small-text mb-0">
				Reason
				<Form.Control
					size="sm"
					required
					maxLength={300}
					placeholder="e.g. board meets 5 Dec"
					value={reason}
					onChange={(event) => setReason(event.target.value)}
				/>
			</Form.Label>
			<span className="d-flex gap-2">
				<Button size="sm" type="submit">
					{give ? "Give rest" : "Ask for rest"}
				</Button>
				<Button size="sm" variant="link" onClick={() => onDone(null)}>
					Cancel
				</Button>
			</span>
		</form>
	);
}
