"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { plural, withArticle } from "@/core/words/grammar";
import { spaced } from "@/ui/format";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { Kit } from "../server/kits";
import { IMPORTANCE, IMPORTANCE_WORDS, type Importance } from "../table/importance";
import "./tasks.css";

type Step = Kit["steps"][number];
type Draft = Omit<Kit, "id"> & { readonly id: string | null };

const STEP: Step = { title: "", days: 3, importance: "usual", asks: null, flags: [], checklist: [] };
const NEW: Draft = { id: null, name: "", about: "", version: 0, steps: [STEP] };

/** The kits: each a set of tasks with days counted from when it is given. A change holds for what is given afterwards. */
export function KitsPanel({ kits, kinds, mayChange }: { kits: readonly Kit[]; kinds: readonly string[]; mayChange: boolean }) {
	const [draft, setDraft] = useState<Draft | null>(null);
	const run = useRun();
	const act = useAct();
	const remove = (kit: Kit) =>
		void act(run("tasks.removeKit", { id: kit.id }), `${kit.name} deleted.`, () =>
			run("tasks.saveKit", { ...kit, id: null, version: 0, steps: kit.steps.map(sent) }),
		);
	return (
		<section className="panel">
			<p className="second">
				A kit is a set of tasks for one kind of trouble, given in one step: each task is due so many working days later. Tasks given before stays as it was when
				a kit is changed.
			</p>
			{kits.map((kit) => (
				<div key={kit.id} className="kit">
					<div className="d-flex justify-content-between align-items-baseline">
						<h2 className="h6 mb-0">{kit.name}</h2>
						{mayChange && draft === null && (
							<span>
								<Button size="sm" variant="link" onClick={() => setDraft(kit)}>
									Change
								</Button>
								<Button size="sm" variant="link" onClick={() => remove(kit)}>
									Delete
								</Button>
							</span>
						)}
					</div>
					{kit.about && <p className="second small-text mb-1">{kit.about}</p>}
					{draft?.id === kit.id ? (
						<KitForm draft={draft} kinds={kinds} onDraft={setDraft} />
					) : (
						<ol className="kit-steps">
							{kit.steps.map((step, i) => (
								<li key={`${i} ${step.title}`}>
									{step.title}{" "}
									<span className="second small-text">
										{step.days === 0 ? "at once" : `after ${plural(step.days, "working day")}`}
										{step.asks && `, done by logging ${withArticle(spaced(step.asks))}`}
										{step.importance !== "usual" && `, ${IMPORTANCE_WORDS[step.importance]}`}
									</span>
								</li>
							))}
						</ol>
					)}
				</div>
			))}
			{!kits.length && draft === null && <p className="second">No kits yet. Create one below.</p>}
			{draft?.id === null && <KitForm draft={draft} kinds={kinds} onDraft={setDraft} />}
			{mayChange && draft === null && (
				<Button size="sm" onClick={() => setDraft(NEW)}>
					Create kit
				</Button>
			)}
		</section>
	);
}

const sent = (step: Step) => ({ ...step, flags: [...step.flags], checklist: [...step.checklist] });

function KitForm({ draft, kinds, onDraft }: { draft: Draft; kinds: readonly string[]; onDraft: (draft: Draft | null) => void }) {
	const run = useRun();
	const act = useAct();
	const change = (at: number, part: Partial<Step>) => onDraft({ ...draft, steps: draft.steps.map((step, i) => (i === at ? { ...step, ...part } : step)) });
	const keep = async () => {
		const steps = draft.steps.filter(({ title }) => title.trim()).map(sent);
		if (await act(run("tasks.saveKit", { ...draft, steps }), `${draft.name} saved.`)) onDraft(null);
	};
	return (
		<Form
			className="kit-form"
			onSubmit={(event) => {
				event.preventDefault();
				void keep();
			}}
		>
			<Form.Control
				size="sm"
				aria-label="Name of the kit"
				placeholder="Name"
				required
				maxLength={80}
				value={draft.name}
				onChange={(event) => onDraft({ ...draft, name: event.target.value })}
			/>
			<Form.Control
				size="sm"
				aria-label="What it is for"
				placeholder="What it is for"
				maxLength={500}
				value={draft.about}
				onChange={(event) => onDraft({ ...draft, about: event.target.value })}
			/>
			{draft.steps.map((step, i) => (
				<StepFields
					key={i}
					number={i + 1}
					step={step}
					kinds={kinds}
					alone={draft.steps.length === 1}
					onChange={(part) => change(i, part)}
					onRemove={() => onDraft({ ...draft, steps: draft.steps.filter((_, n) => n !== i) })}
				/>
			))}
			<div className="d-flex gap-2">
				<Button size="sm" type="submit" disabled={!draft.name.trim() || !draft.steps.some(({ title }) => title.trim())}>
					Save
				</Button>
				<Button size="sm" variant="outline-primary" disabled={draft.steps.length >= 30} onClick={() => onDraft({ ...draft, steps: [...draft.steps, STEP] })}>
					Add task
				</Button>
				<Button size="sm" variant="link" onClick={() => onDraft(null)}>
					Discard
				</Button>
			</div>
		</Form>
	);
}

interface StepProps {
	readonly number: number;
	readonly step: Step;
	readonly kinds: readonly string[];
	/** the only one, which can’t be removed */
	readonly alone: boolean;
	readonly onChange: (part: Partial<Step>) => void;
	readonly onRemove: () => void;
}

/** One task of a kit: its text, when it is due, what it is done by, and how important it is. */
function StepFields({ number, step, kinds, alone, onChange, onRemove }: StepProps) {
	return (
		<div className="kit-step">
			<Form.Control
				size="sm"
				aria-label={`Task ${number}`}
				placeholder="Task text; {deal}, {account}, {close date} and {flag} are filled in"
				maxLength={300}
				value={step.title}
				onChange={(event) => onChange({ title: event.target.value })}
			/>
			<label className="small-text text-nowrap">
				after{" "}
				<input
					type="number"
					className="form-control form-control-sm d-inline-block kit-days"
					min={0}
					max={120}
					aria-label={`Working days of task ${number}`}
					value={step.days}
					onChange={(event) => onChange({ days: Math.min(120, Math.max(0, Number(event.target.value) || 0)) })}
				/>{" "}
				working days
			</label>
			<Form.Select
				size="sm"
				aria-label={`Task ${number} is done by`}
				value={step.asks ?? ""}
				onChange={(event) => onChange({ asks: event.target.value || null })}
			>
				<option value="">done by hand</option>
				{kinds.map((kind) => (
					<option key={kind} value={kind}>
						done by logging {withArticle(spaced(kind))}
					</option>
				))}
			</Form.Select>
			<Form.Select
				size="sm"
				aria-label={`Importance of task ${number}`}
				value={step.importance}
				onChange={(event) => onChange({ importance: event.target.value as Importance })}
			>
				{IMPORTANCE.map((key) => (
					<option key={key} value={key}>
						{IMPORTANCE_WORDS[key]}
					</option>
				))}
			</Form.Select>
			<Button size="sm" variant="link" aria-label={`Remove task ${number}`} disabled={alone} onClick={onRemove}>
				Remove
			</Button>
		</div>
	);
}
