"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { evenChances } from "@/core/history/stage";
import type { StageInput } from "@/features/setup/server/stageSettings";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";

/** The first stages, made of those that stand in a file: put in order, and said which are won and lost. */
export function FirstStages({ suggested, onMade }: { suggested: readonly StageInput[]; onMade: () => void }) {
	const [order, setList] = useState(suggested);
	const list = evenChances(order);
	const run = useRun();
	const act = useAct();
	const move = (i: number, step: number) => {
		const next = [...list];
		next.splice(i + step, 0, ...next.splice(i, 1));
		setList(next);
	};
	const set = (i: number, change: Partial<StageInput>) => setList(list.map((stage, at) => (at === i ? { ...stage, ...change } : stage)));
	const make = async () => {
		const made = await act(run("setup.saveStages", { stages: list }), "Stages created. Change their chances and usual days under Stages and habits.");
		if (made) onMade();
	};
	return (
		<fieldset className="mt-2" aria-label="First stages">
			<legend className="fs-6 fw-bold mb-1">There are no stages yet. These are in the file. Put them in order, first stage on top; chances rise evenly.</legend>
			<ol className="first-stages">
				{list.map((stage, i) => (
					<li key={stage.name}>
						<span>{stage.name}</span>
						<Form.Select
							size="sm"
							aria-label={`${stage.name} is for deals that are`}
							value={stage.kind}
							onChange={(event) => set(i, { kind: event.target.value as StageInput["kind"] })}
						>
							<option>open</option>
							<option>won</option>
							<option>lost</option>
						</Form.Select>
						<span className="num second" title="Chance">
							{Math.round(100 * stage.probability)}%
						</span>
						<span className="text-nowrap">
							<Button size="sm" variant="link" disabled={i === 0} aria-label={`${stage.name} further up`} onClick={() => move(i, -1)}>
								↑
							</Button>
							<Button size="sm" variant="link" disabled={i === list.length - 1} aria-label={`${stage.name} further down`} onClick={() => move(i, 1)}>
								↓
							</Button>
						</span>
					</li>
				))}
			</ol>
			<Button size="sm" onClick={() => void make()}>
				Create these stages
			</Button>
		</fieldset>
	);
}
