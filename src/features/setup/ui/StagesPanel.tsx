"use client";
import { useEffect, useMemo, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { useRun } from "@/ui/run";
import { undone, useAct } from "@/ui/useAct";
import type { Habits } from "../server/habitSettings";
import type { StageInput, StageView } from "../server/stageSettings";
import { HabitsForm } from "./HabitsForm";

type Item = StageInput & { readonly row: number; readonly used: number; readonly open: number };
let rows = 0;

/** The stages in order, and the habits that hang on them. */
export function StagesPanel({ stages, habits, mayChange }: { stages: readonly StageView[]; habits: Habits; mayChange: boolean }) {
	const saved = useMemo(() => JSON.stringify(stages), [stages]);
	const start = () => (JSON.parse(saved) as StageView[]).map((stage): Item => ({ ...stage, row: ++rows }));
	const [list, setList] = useState<Item[]>(start);
	// biome-ignore lint/correctness/useExhaustiveDependencies: what is saved is taken over once it changes
	useEffect(() => setList(start()), [saved]);
	const run = useRun();
	const act = useAct();
	const plain = (items: readonly (StageInput & { used: number; open: number })[]) =>
		items.map(({ was, name, kind, probability, usualDays }): StageInput => ({ was, name, kind, probability, usualDays }));
	const changed = JSON.stringify(plain(list)) !== JSON.stringify(plain(stages));
	const set = (row: number, change: Partial<StageInput>) => setList(list.map((item) => (item.row === row ? { ...item, ...change } : item)));
	const move = (i: number, step: number) => {
		const next = [...list];
		const [item] = next.splice(i, 1);
		next.splice(i + step, 0, item as Item);
		setList(next);
	};
	/** The stages as they were, named by what they are called once these are kept. */
	const back = () => {
		const now = new Map(list.flatMap((item) => (item.was === null ? [] : [[item.was, item.name] as const])));
		return plain(stages).map((stage) => ({ ...stage, was: now.get(stage.name) ?? null }));
	};
	return (
		<div>
			<p className="second">
				A stage that is renamed keeps its deals and its past. When stages change places, steps forward and back are counted in the new order. A stage that deals
				have stood in can’t be removed.
			</p>
			<fieldset disabled={!mayChange} className="panel p-0 table-scroll">
				<table className="table">
					<thead>
						<tr>
							<th>Stage</th>
							<th>For deals that are</th>
							<th>Chance %</th>
							<th>Usual working days</th>
							<th className="num">Deals now</th>
							<th>
								<span className="visually-hidden">Order</span>
							</th>
						</tr>
					</thead>
					<tbody>
						{list.map((item, i) => (
							<tr key={item.row}>
								<td>
									<Form.Control
										size="sm"
										aria-label="Name of the stage"
										value={item.name}
										maxLength={100}
										onChange={(event) => set(item.row, { name: event.target.value })}
									/>
								</td>
								<td>
									<Form.Select
										size="sm"
										aria-label="Kind of stage"
										value={item.kind}
										disabled={item.used > 0}
										onChange={(event) => set(item.row, { kind: event.target.value as StageInput["kind"] })}
									>
										<option>open</option>
										<option>won</option>
										<option>lost</option>
									</Form.Select>
								</td>
								<td>
									<Form.Control
										size="sm"
										type="number"
										className="setting"
										aria-label="Chance in per cent"
										min={0}
										max={100}
										value={Math.round(item.probability * 1000) / 10}
										onChange={(event) => set(item.row, { probability: Number(event.target.value) / 100 })}
									/>
								</td>
								<td>
									<Form.Control
										size="sm"
										type="number"
										className="setting"
										aria-label="Usual working days"
										min={0}
										value={item.usualDays}
										onChange={(event) => set(item.row, { usualDays: Number(event.target.value) })}
									/>
								</td>
								<td className="num second">{item.open}</td>
								<td className="text-nowrap">
									<Button size="sm" variant="link" disabled={i === 0} aria-label={`${item.name} further up`} onClick={() => move(i, -1)}>
										↑
									</Button>
									<Button size="sm" variant="link" disabled={i === list.length - 1} aria-label={`${item.name} further down`} onClick={() => move(i, 1)}>
										↓
									</Button>
									<Button
										size="sm"
										variant="link"
										disabled={item.used > 0}
										aria-label={`Remove ${item.name}`}
										title={item.used > 0 ? `Deals stood in it ${item.used} times` : "Remove"}
										onClick={() => setList(list.filter((other) => other !== item))}
									>
										×
									</Button>
								</td>
							</tr>
						))}
					</tbody>
				</table>
			</fieldset>
			{mayChange && (
				<div className="setup-bar">
					<Button
						variant="outline-primary"
						onClick={() => {
							const at = list.findLastIndex((item) => item.kind === "open") + 1;
							setList([
								...list.slice(0, at),
								{ row: ++rows, was: null, name: "", kind: "open", probability: 0.5, usualDays: 10, used: 0, open: 0 },
								...list.slice(at),
							]);
						}}
					>
						Add a stage
					</Button>
					{changed && (
						<div className="d-flex gap-2">
							<Button variant="link" onClick={() => setList(start())}>
								Discard
							</Button>
							<Button
								onClick={() =>
									void act(run("setup.saveStages", { stages: plain(list) }), "The stages are changed.", () =>
										undone(run("setup.saveStages", { stages: back() }), () => setList(start())),
									)
								}
							>
								Change the stages
							</Button>
						</div>
					)}
				</div>
			)}
			<h2 className="mt-4">Habits</h2>
			<HabitsForm habits={habits} stages={stages.filter((stage) => stage.kind === "open").map((stage) => stage.name)} mayChange={mayChange} />
		</div>
	);
}
