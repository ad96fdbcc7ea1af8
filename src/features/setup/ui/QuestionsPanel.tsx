"use client";
import { useEffect, useMemo, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { longDate } from "@/ui/format";
import { useRun } from "@/ui/run";
import { undone, useAct } from "@/ui/useAct";
import type { QuestionInput, QuestionsView } from "../server/questionSettings";

type Item = QuestionInput & { readonly row: number };
let rows = 0;

/** The questions deals are judged by. A change makes a new edition from today on; earlier scores stay as they were. */
export function QuestionsPanel({ view, mayChange }: { view: QuestionsView; mayChange: boolean }) {
	const saved = useMemo(() => JSON.stringify(view.questions), [view.questions]);
	const start = () => (JSON.parse(saved) as QuestionInput[]).map((question): Item => ({ ...question, row: ++rows }));
	const [list, setList] = useState<Item[]>(start);
	// biome-ignore lint/correctness/useExhaustiveDependencies: what is saved is taken over once it changes
	useEffect(() => setList(start()), [saved]);
	const run = useRun();
	const act = useAct();
	const plain = list.map(({ row: _, ...question }): QuestionInput => question);
	const changed = JSON.stringify(plain) !== saved;
	const set = (row: number, change: Partial<QuestionInput>) => setList(list.map((item) => (item.row === row ? { ...item, ...change } : item)));
	const move = (i: number, step: number) => {
		const next = [...list];
		const [item] = next.splice(i, 1);
		next.splice(i + step, 0, item as Item);
		setList(next);
	};
	const save = () =>
		act(run("setup.saveQuestions", { questions: plain }), "The questions are changed, from today on.", (done) =>
			undone(run("setup.undoQuestions", { change: done.change }), () => setList(start())),
		);
	const since = view.editions[0];
	return (
		<div>
			<p className="second">
				{since ? `This edition counts since ${longDate(since)}; it is the ${ordinal(view.editions.length)}. ` : "The first edition. "}
				Changing a question makes a new edition from today on: strength, coverage and gaps of earlier days stay as they were seen.
				{!mayChange && " Ops can change them."}
			</p>
			<fieldset disabled={!mayChange} className="panel p-0 table-scroll">
				<table className="table questions-table">
					<thead>
						<tr>
							<th>Area</th>
							<th>Question and help</th>
							<th>Weight</th>
							<th>Due at</th>
							<th>Key</th>
							<th>Deals answered</th>
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
										aria-label="Area"
										value={item.area}
										maxLength={100}
										onChange={(event) => set(item.row, { area: event.target.value })}
									/>
								</td>
								<td>
									<Form.Control
										size="sm"
										aria-label="Question"
										value={item.prompt}
										maxLength={500}
										onChange={(event) => set(item.row, { prompt: event.target.value })}
									/>
									<Form.Control
										size="sm"
										className="mt-1 tiny"
										aria-label="Help"
										placeholder="Help for whoever asks it"
										value={item.help ?? ""}
										maxLength={2000}
										onChange={(event) => set(item.row, { help: event.target.value || null })}
									/>
								</td>
								<td>
									<Form.Control
										size="sm"
										type="number"
										step="any"
										aria-label="Weight"
										className="setting"
										value={Number.isNaN(item.weight) ? "" : item.weight}
										isInvalid={!(item.weight > 0 && item.weight <= 1_000_000)}
										onChange={(event) => set(item.row, { weight: event.target.value === "" ? Number.NaN : Number(event.target.value) })}
									/>
								</td>
								<td>
									<Form.Select size="sm" aria-label="Due at" value={item.due} onChange={(event) => set(item.row, { due: Number(event.target.value) })}>
										{view.stages.map((stage, n) => (
											<option key={stage} value={n + 1}>
												{stage}
											</option>
										))}
										{item.due > view.stages.length && <option value={item.due}>no stage</option>}
									</Form.Select>
								</td>
								<td>
									<Form.Check aria-label="Key question" checked={item.key} onChange={(event) => set(item.row, { key: event.target.checked })} />
								</td>
								<td className="num second">{item.id ? (view.answers[item.id] ?? 0) : "new"}</td>
								<td className="text-nowrap">
									<Button size="sm" variant="link" disabled={i === 0} aria-label={`${item.prompt} further up`} onClick={() => move(i, -1)}>
										↑
									</Button>
									<Button size="sm" variant="link" disabled={i === list.length - 1} aria-label={`${item.prompt} further down`} onClick={() => move(i, 1)}>
										↓
									</Button>
									<Button
										size="sm"
										variant="link"
										aria-label={`Ask no more: ${item.prompt}`}
										title="Ask no more; answers stay"
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
						onClick={() =>
							setList([...list, { row: ++rows, id: null, area: list.at(-1)?.area ?? "Need", prompt: "", help: null, weight: 1, due: 1, key: false }])
						}
					>
						Add a question
					</Button>
					{changed && (
						<div className="d-flex gap-2">
							<Button variant="link" onClick={() => setList(start())}>
								Discard
							</Button>
							<Button onClick={() => void save()}>Make this the edition from today on</Button>
						</div>
					)}
				</div>
			)}
		</div>
	);
}

const ordinal = (n: number) =>
	`${n}${n % 10 === 1 && n % 100 !== 11 ? "st" : n % 10 === 2 && n % 100 !== 12 ? "nd" : n % 10 === 3 && n % 100 !== 13 ? "rd" : "th"}`;
