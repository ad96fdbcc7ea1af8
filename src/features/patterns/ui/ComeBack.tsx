"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { nearDate } from "@/ui/format";
import { useMay } from "@/ui/frame/may";
import { DayField } from "@/ui/parts/DayField";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";

interface Props {
	readonly dealId: string;
	readonly day: string;
	readonly back: string | null;
	readonly title: string;
	readonly seen: string;
}

/** The day to come back to a lost deal, made into a task of whoever lost it. */
export function ComeBack({ dealId, day: suggested, back, title, seen }: Props) {
	const [day, setDay] = useState(suggested);
	const run = useRun();
	const act = useAct();
	const may = useMay("assignTasks");
	if (back) return <span className="gained text-nowrap">follow-up on {nearDate(back, seen)}</span>;
	if (!may) return <span className="text-nowrap">{nearDate(suggested, seen)}</span>;
	return (
		<Form
			className="d-flex gap-1 align-items-center"
			onSubmit={(event) => {
				event.preventDefault();
				void act(
					run("tasks.comeBack", { dealId, day, title }),
					(made) => `${made.assignee} is due for follow-up on ${nearDate(day, seen)}.`,
					(made) => run("tasks.takeBack", { ids: [made.id] }),
				);
			}}
		>
			<DayField size="sm" className="come-back-day" aria-label={`Follow-up day: ${title}`} min={seen} value={day} required onDay={(day) => setDay(day)} />
			<Button size="sm" type="submit" variant="outline-primary" className="no-print text-nowrap">
				Give task
			</Button>
		</Form>
	);
}
