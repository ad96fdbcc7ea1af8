"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { longDate } from "@/ui/format";
import { useNotice } from "@/ui/Notices";
import { useRun } from "@/ui/run";
import { useRefresh } from "@/ui/useAct";

export interface ClockView {
	readonly today: string;
	readonly held: boolean;
	/** the day comes from the environment, and can't be changed here */
	readonly byEnvironment: boolean;
}

/** The day everything is seen on. The demo company holds it, so that its story stays true. */
export function ClockPanel({ view }: { view: ClockView }) {
	const [day, setDay] = useState(view.today);
	const run = useRun();
	const notice = useNotice();
	const refresh = useRefresh();
	const set = async (next: string | null) => {
		const done = await run("setup.holdDay", { day: next });
		notice({ words: done.ok ? (next ? `Today is held at ${longDate(next)}.` : "Today passes with the calendar again.") : done.detail });
		refresh();
	};
	return (
		<section className="panel">
			<h2>Today is {longDate(view.today)}</h2>
			<p className="second">
				{view.byEnvironment
					? "It is held by PORCH_LAMP_TODAY, where the program was started."
					: view.held
						? "It is held, and doesn’t pass: figures stay those of this day. The demo company is held at the day it was made."
						: "It passes with the calendar."}
			</p>
			{!view.byEnvironment && (
				<div className="d-flex gap-2 align-items-end flex-wrap">
					<Form.Group controlId="held-day">
						<Form.Label>Hold it at</Form.Label>
						<Form.Control type="date" value={day} onChange={(event) => setDay(event.target.value)} />
					</Form.Group>
					<Button variant="outline-primary" disabled={!day} onClick={() => void set(day)}>
						Hold
					</Button>
					{view.held && (
						<Button variant="outline-primary" onClick={() => void set(null)}>
							Let it pass
						</Button>
					)}
				</div>
			)}
		</section>
	);
}
