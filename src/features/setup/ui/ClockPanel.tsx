"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { longDate } from "@/ui/format";
import { useNotice } from "@/ui/Notices";
import { DayField } from "@/ui/parts/DayField";
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
		notice({ words: done.ok ? (next ? `Today is fixed at ${longDate(next)}.` : "Today follows the calendar again.") : done.detail });
		refresh();
	};
	return (
		<section className="panel">
			<h2>Today is {longDate(view.today)}</h2>
			<p className="second">
				{view.byEnvironment
					? "Set by PORCH_LAMP_TODAY when the program was started."
					: view.held
						? "The date is fixed: figures stay those of this day. The demo company is fixed at the day it was made for."
						: "Today follows the calendar."}
			</p>
			{!view.byEnvironment && (
				<div className="d-flex gap-2 align-items-end flex-wrap">
					<Form.Group controlId="held-day">
						<Form.Label>Fix today at</Form.Label>
						<DayField value={day} onDay={(day) => setDay(day)} />
					</Form.Group>
					<Button variant="outline-primary" disabled={!day} onClick={() => void set(day)}>
						Fix day
					</Button>
					{view.held && (
						<Button variant="outline-primary" onClick={() => void set(null)}>
							Follow the calendar
						</Button>
					)}
				</div>
			)}
		</section>
	);
}
