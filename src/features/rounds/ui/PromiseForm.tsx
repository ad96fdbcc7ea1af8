"use client";
import { useEffect, useRef, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { useHotkeys } from "react-hotkeys-hook";
import { DayField } from "@/ui/parts/DayField";
import type { RoundCurrent, RoundView } from "../server/readRound";
import { useGive } from "./DealPane";

/** Writes a promise of the deal's owner: opened by T or by mouse. */
export function PromiseForm({ view, current, onAside }: { view: RoundView; current: RoundCurrent; onAside: (aside: boolean) => void }) {
	// Long: one form, its fields in their order.
	const [open, setOpen] = useState(false);
	const [title, setTitle] = useState("");
	const [due, setDue] = useState("");
	const give = useGive(view, current);
	const box = useRef<HTMLInputElement>(null);
	const show = (on: boolean) => {
		setOpen(on);
		onAside(on);
	};
	useHotkeys(
		"t",
		(event) => {
			event.preventDefault();
			show(true);
		},
		{ enabled: !open, enableOnFormTags: false },
	);
	useEffect(() => {
		if (open) box.current?.focus({ preventScroll: true });
	}, [open]);
	if (!open)
		return (
			<Button size="sm" variant="outline-primary" className="no-print" onClick={() => show(true)}>
				Promise a task
			</Button>
		);
	return (
		<form
			className="round-form"
			aria-label="A promise"
			onKeyDown={(event) => event.key === "Escape" && show(false)}
			onSubmit={async (event) => {
				event.preventDefault();
				if (!(await give(title, [], due || undefined))) return;
				setTitle("");
				show(false);
			}}
		>
			<Form.Control
				ref={box}
				size="sm"
				required
				maxLength={300}
				aria-label="Promise"
				placeholder={`What ${current.sheet.owner} promises`}
				value={title}
				onChange={(event) => setTitle(event.target.value)}
			/>
			<Form.Label className="small-text mb-0">
				Due (default: in three working days)
				<DayField size="sm" min={current.sheet.seen} value={due} onDay={(day) => setDue(day)} />
			</Form.Label>
			<span className="d-flex gap-2">
				<Button size="sm" type="submit">
					Save promise
				</Button>
				<Button size="sm" variant="link" onClick={() => show(false)}>
					Cancel
				</Button>
			</span>
		</form>
	);
}
