"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { shortDate } from "@/ui/format";
import { DayField } from "@/ui/parts/DayField";
import { type Input, useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { SheetView } from "../server/sheetView";

type Side = Input<"sheet.addStep">["side"];

/** The steps to the signature, each with its day and who does it; late ones stand out. */
export function ClosePlan({ view }: { view: SheetView }) {
	const run = useRun();
	const act = useAct();
	const late = view.plan.filter((step) => step.late).length;
	return (
		<section>
			<h3>
				Close plan
				{view.plan.length > 0 && `: ${view.plan.filter((step) => step.done).length} of ${view.plan.length} done`}
				{late > 0 && <span className="worse">, {late} late</span>}
			</h3>
			<ul className="rows small-text">
				{view.plan.map((step) => (
					<li key={step.id}>
						{view.mayEdit ? (
							<Form.Check
								id={`step-${step.id}`}
								checked={step.done !== null}
								label={<StepWords step={step} />}
								onChange={(event) => void act(run("sheet.changeStep", { id: step.id, done: event.target.checked }))}
							/>
						) : (
							<span>
								<span aria-hidden="true">{step.done ? "✓" : "○"}</span> <StepWords step={step} />
							</span>
						)}
						<span className={`tiny text-nowrap ${step.late ? "worse" : "second"}`}>
							{step.done ? `done ${shortDate(step.done)}` : shortDate(step.due)}
							{step.late && " late"}
							{view.mayEdit && (
								<button
									type="button"
									className="plain-button step-remove no-print"
									aria-label={`Remove the step ${step.title}`}
									title="Remove"
									onClick={() =>
										void act(run("sheet.removeStep", { id: step.id }), `“${step.title}” removed.`, () =>
											run("sheet.addStep", { dealId: view.id, title: step.title, dueOn: step.due, side: step.side as Side }),
										)
									}
								>
									×
								</button>
							)}
						</span>
					</li>
				))}
				{!view.plan.length && <li className="second">No steps yet.</li>}
			</ul>
			{view.mayEdit && <AddStep view={view} />}
		</section>
	);
}

function StepWords({ step }: { step: SheetView["plan"][number] }) {
	return (
		<span className={step.done ? "second" : ""}>
			{step.title} <span className="third">{step.side}</span>
		</span>
	);
}

function AddStep({ view }: { view: SheetView }) {
	const [title, setTitle] = useState("");
	const [due, setDue] = useState("");
	const [side, setSide] = useState<Side>("theirs");
	const run = useRun();
	const act = useAct();
	return (
		<Form
			className="step-line no-print"
			aria-label="Add a step"
			onSubmit={async (event) => {
				event.preventDefault();
				const done = await act(run("sheet.addStep", { dealId: view.id, title, dueOn: due || null, side }), "Added.", (made) =>
					run("sheet.removeStep", { id: made.id }),
				);
				if (done) setTitle((now) => (now === title ? "" : now));
			}}
		>
			<Form.Control size="sm" aria-label="Step" placeholder="Step" maxLength={300} required value={title} onChange={(event) => setTitle(event.target.value)} />
			<DayField size="sm" aria-label="Day of the step" value={due} onDay={(day) => setDue(day)} />
			<Form.Select size="sm" aria-label="Whose step" value={side} onChange={(event) => setSide(event.target.value as Side)}>
				<option value="theirs">theirs</option>
				<option value="ours">ours</option>
			</Form.Select>
			<Button size="sm" variant="outline-primary" type="submit" disabled={!title.trim()}>
				Add
			</Button>
		</Form>
	);
}
