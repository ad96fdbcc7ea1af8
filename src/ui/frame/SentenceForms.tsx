"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { DayField } from "@/ui/parts/DayField";
import { useRun } from "../run";
import { useAct } from "../useAct";

export function DayForm({ label, day, most, pick }: { label: string; day: string; most: string; pick: (day: string) => void }) {
	const [value, setValue] = useState(day);
	return (
		<Form
			className="px-3 py-2 d-flex gap-2 align-items-end"
			onSubmit={(event) => {
				event.preventDefault();
				if (value) pick(value);
			}}
		>
			<Form.Group controlId={`day-${label}-${most}-${day}`}>
				<Form.Label className="tiny mb-0">{label}</Form.Label>
				<DayField size="sm" value={value} max={most} required onDay={(day) => setValue(day)} />
			</Form.Group>
			<Button type="submit" size="sm" variant="outline-primary">
				Apply
			</Button>
		</Form>
	);
}

/** Keeps this moment under a name, to compare with later. */
export function MarkForm() {
	const [name, setName] = useState("");
	const run = useRun();
	const act = useAct();
	return (
		<Form
			className="px-3 py-2 d-flex gap-2 align-items-end border-top"
			onSubmit={async (event) => {
				event.preventDefault();
				const done = await act(run("changes.keepMark", { name }), `This moment is saved as “${name}”; you can compare with it from tomorrow on.`, (made) =>
					run("changes.removeMark", { id: made.id }),
				);
				if (done) setName((now) => (now === name ? "" : now));
			}}
		>
			<Form.Group controlId="mark-name">
				<Form.Label className="tiny mb-0">Save this moment as a mark</Form.Label>
				<Form.Control size="sm" placeholder="Monday round" maxLength={100} value={name} onChange={(event) => setName(event.target.value)} />
			</Form.Group>
			<Button type="submit" size="sm" variant="outline-primary" disabled={!name.trim()}>
				Save
			</Button>
		</Form>
	);
}

export function RangeForm({ start, end, pick }: { start: string | null; end: string | null; pick: (range: string) => void }) {
	const [from, setFrom] = useState(start ?? "");
	const [to, setTo] = useState(end ?? "");
	const wrong = Boolean(from && to && to < from);
	return (
		<Form
			className="px-3 py-2"
			onSubmit={(event) => {
				event.preventDefault();
				if (!wrong && (from || to)) pick(`${from}..${to}`);
			}}
		>
			<div className="d-flex gap-2 align-items-end">
				<Form.Group controlId="range-from">
					<Form.Label className="tiny mb-0">From</Form.Label>
					<DayField size="sm" value={from} onDay={(day) => setFrom(day)} />
				</Form.Group>
				<Form.Group controlId="range-to">
					<Form.Label className="tiny mb-0">To</Form.Label>
					<DayField size="sm" value={to} isInvalid={wrong} onDay={(day) => setTo(day)} />
				</Form.Group>
				<Button type="submit" size="sm" variant="outline-primary" disabled={wrong}>
					Apply
				</Button>
			</div>
			{wrong && <div className="tiny worse">The period ends before it starts.</div>}
		</Form>
	);
}
