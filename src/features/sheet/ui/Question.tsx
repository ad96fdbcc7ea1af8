"use client";
import { type KeyboardEvent, useRef, useState } from "react";
import { Button, Form } from "react-bootstrap";
import type { Level as LevelName } from "@/core/qualification/answer";
import { byCount } from "@/core/words/grammar";
import { nearDate } from "@/ui/format";
import { useNotice } from "@/ui/Notices";
import { Level, levelWord } from "@/ui/parts/Level";
import { type Input, useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { SheetQuestion } from "../server/questions";
import type { SheetView } from "../server/sheetView";
import { AnswerHistory } from "./AnswerHistory";

/** The levels in the order of their keys. */
const KEYS: readonly LevelName[] = ["unknown", "assumed", "heard", "shown", "against"];

interface QuestionProps {
	readonly question: SheetQuestion;
	readonly view: SheetView;
	readonly open: boolean;
	readonly onOpen: (open: boolean) => void;
	readonly onTask: (title: string, flags: string[]) => void;
}

export function Question({ question, view, open, onOpen, onTask }: QuestionProps) {
	// Long: one page, its parts in their order.
	const { say, note, setNote, proof, setProof, waiting } = useAnswer(question, view);
	const pressed = (event: KeyboardEvent<HTMLLIElement>) => {
		if ((event.target as HTMLElement).closest("input, select, textarea") || event.ctrlKey || event.metaKey || event.altKey) return;
		const level = KEYS[Number(event.key)];
		if (/^[0-4]$/.test(event.key) && level && view.mayEdit) {
			event.preventDefault();
			event.stopPropagation();
			void say(level);
		}
		const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
		if (!step || event.target !== event.currentTarget) return;
		event.preventDefault();
		const all = [...document.querySelectorAll<HTMLElement>(".question")];
		all[all.indexOf(event.currentTarget) + step]?.focus();
	};
	const standing = `${levelWord(question.level)}${question.age === null ? "" : `, ${question.age === 0 ? "today" : `${question.age} working ${byCount(question.age, "day", "days")} ago`}`}${question.stale ? ", old" : ""}`;
	return (
		<li
			className={`question ${question.gap ? "gap" : ""}`}
			tabIndex={view.mayEdit ? 0 : -1}
			onKeyDown={pressed}
			aria-label={`${question.prompt} ${standing}${question.gap ? ", a gap" : ""}`}
		>
			<div className="question-line">
				<button type="button" className="plain-button question-prompt" aria-expanded={open} title={question.help ?? undefined} onClick={() => onOpen(!open)}>
					{question.prompt}
					{question.key && <b className="tag"> key</b>}
					{question.gap && <b className="worse"> gap</b>}
				</button>
				<span className={`tiny text-nowrap ${question.gap || question.stale ? "worse" : "second"}`}>
					<Level level={question.level} /> {standing}
				</span>
			</div>
			{view.mayEdit && <Levels question={question} waiting={waiting} onSay={(level) => void say(level)} />}
			{question.note && !open && <div className="tiny second">“{question.note}”</div>}
			{open && (
				<div className="question-more">
					{question.help && <p className="tiny second mb-1">{question.help}</p>}
					{view.mayEdit && (
						<div className="question-form no-print">
							<Form.Control
								size="sm"
								aria-label="Note on the answer"
								placeholder="Write a note, then choose the answer above"
								maxLength={2000}
								value={note}
								onChange={(event) => setNote(event.target.value)}
							/>
							<Form.Select size="sm" aria-label="Source" value={proof} onChange={(event) => setProof(event.target.value)}>
								<option value="">Choose a source …</option>
								{proofsOf(view).map(({ value, label }) => (
									<option key={value} value={value}>
										{label}
									</option>
								))}
								<option value="link">the link in the note</option>
							</Form.Select>
							<Button
								size="sm"
								variant="link"
								onClick={() => onTask(`Ask the buyer: ${question.prompt}`, question.gap ? ["under-qualified"] : question.stale ? ["stale-answers"] : [])}
							>
								Make task
							</Button>
						</div>
					)}
					<AnswerHistory question={question} seen={view.seen} />
				</div>
			)}
		</li>
	);
}

function Levels({ question, waiting, onSay }: { question: SheetQuestion; waiting: boolean; onSay: (level: LevelName) => void }) {
	return (
		<div className="levels no-print" role="group" aria-label={`Answer: ${question.prompt}`}>
			{KEYS.map((level) => {
				const effect = question.effects.find((e) => e.level === level);
				return (
					<button
						key={level}
						type="button"
						aria-pressed={question.level === level}
						disabled={waiting}
						title={`${levelWord(level)}: strength ${effect?.strength}, coverage ${effect?.coverage}`}
						onClick={() => onSay(level)}
					>
						{levelWord(level)} <span className="third">{effect?.strength}</span>
					</button>
				);
			})}
		</div>
	);
}

/** What can show an answer: conversations, newest first, then files and people. */
function proofsOf(view: SheetView): { value: string; label: string }[] {
	const talks = view.happenings.filter((item) => item.kind === "contact" && !item.planned && item.id).slice(0, 20);
	return [
		...talks.map((item) => ({ value: `activity:${item.id}`, label: `${nearDate(item.day, view.seen)} ${item.what}` })),
		...view.files.map((file) => ({ value: `attachment:${file.id}`, label: file.name })),
		...view.people.map((person) => ({ value: `contact:${person.id}`, label: person.name })),
	];
}

function useAnswer(question: SheetQuestion, view: SheetView) {
	const [note, setNote] = useState("");
	const [proof, setProof] = useState("");
	const [waiting, setWaiting] = useState(false);
	/** one’s own newest answer, before the sheet has been read again */
	const own = useRef<string | null>(null);
	const run = useRun();
	const act = useAct();
	const notice = useNotice();
	const say = async (level: LevelName) => {
		const usual = proofsOf(view)[0]?.value ?? "";
		const shownBy = level !== "shown" ? null : proof === "link" ? (/https?:\/\/\S+/.exec(note)?.[0] ?? "") : proof || usual;
		const input: Omit<Input<"evidence.answer">, "dealId"> = {
			questionId: question.id,
			level,
			note: note.trim() || null,
			shownBy,
			seenAt: (own.current ?? "") > (question.at ?? "") ? own.current : question.at,
		};
		setWaiting(true);
		const first = await run("evidence.answer", { dealId: view.id, ...input });
		setWaiting(false);
		if (first.ok) own.current = first.result.at;
		if (!first.ok && first.status === 409) {
			notice({
				words: first.detail,
				label: "Answer anyway",
				undo: async () => {
					await act(run("evidence.answer", { dealId: view.id, ...input, anyway: true }), "Answer saved.");
				},
			});
			return;
		}
		const back: Omit<Input<"evidence.answer">, "dealId"> = {
			questionId: question.id,
			level: question.level,
			note: question.note,
			shownBy: question.history[0]?.proof ?? null,
			seenAt: first.ok ? first.result.at : null,
		};
		const done = await act(Promise.resolve(first), `${question.prompt} ${levelWord(level)}.`, () => run("evidence.answer", { dealId: view.id, ...back }));
		if (done) {
			// What was written meanwhile belongs to the next answer.
			setNote((now) => (now === note ? "" : now));
			setProof((now) => (now === proof ? "" : now));
		}
	};
	return { say, note, setNote, proof, setProof, waiting };
}
