"use client";
import { useEffect, useRef, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { useHotkeys } from "react-hotkeys-hook";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { QueueDeal, RoundView } from "../server/readRound";

/** What is noted of a deal in a round. What somebody else writes meanwhile is shown beside, and never replaces what is being written. */
export function RoundNote({ view, deal, onAside }: { view: RoundView; deal: QueueDeal; onAside: (aside: boolean) => void }) {
	// Long: what is written and what others write meanwhile are one state.
	const run = useRun();
	const act = useAct();
	const [words, setWords] = useState(deal.note);
	/** the note that the writing began from */
	const [base, setBase] = useState(deal.note);
	const box = useRef<HTMLTextAreaElement>(null);
	const dirty = words !== base;
	useEffect(() => {
		if (dirty || deal.note === base) return;
		setWords(deal.note);
		setBase(deal.note);
	}, [deal.note, base, dirty]);
	useHotkeys(
		"n",
		(event) => {
			event.preventDefault();
			box.current?.focus();
		},
		{ enabled: view.mayNote, enableOnFormTags: false },
	);
	const save = async () => {
		if (!dirty) return;
		const done = await act(run("rounds.note", { id: view.id, dealId: deal.id, note: words, before: base }));
		if (done) setBase(done.result.note);
	};
	const apart = dirty && deal.note !== base;
	return (
		<section>
			<h3>
				<label htmlFor={`note-${deal.id}`}>Note</label>
			</h3>
			<Form.Control
				ref={box}
				id={`note-${deal.id}`}
				as="textarea"
				rows={3}
				size="sm"
				maxLength={5000}
				readOnly={!view.mayNote}
				placeholder={view.mayNote ? "What was said" : "No notes"}
				value={words}
				onFocus={() => onAside(true)}
				onBlur={() => {
					onAside(false);
					void save();
				}}
				onChange={(event) => setWords(event.target.value)}
				onKeyDown={(event) => {
					if (event.key === "Escape" || (event.key === "Enter" && (event.ctrlKey || event.metaKey))) event.currentTarget.blur();
				}}
			/>
			{apart && (
				<p className="small-text worse mb-0 mt-1">
					Someone else wrote here: “{deal.note}”.{" "}
					<Button
						size="sm"
						variant="link"
						className="p-0 align-baseline"
						onMouseDown={(event) => event.preventDefault()}
						onClick={() => {
							setWords(`${deal.note}\n${words}`);
							setBase(deal.note);
						}}
					>
						Combine both
					</Button>
				</p>
			)}
			{dirty && !apart && <p className="tiny second mb-0">Saved when you leave the field.</p>}
		</section>
	);
}
