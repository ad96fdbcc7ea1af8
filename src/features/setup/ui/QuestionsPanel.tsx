"use client";
import { Button, Form } from "react-bootstrap";
import { type UseFieldArrayReturn, type UseFormRegister, useFieldArray, useForm } from "react-hook-form";
import { longDate } from "@/ui/format";
import { useRun } from "@/ui/run";
import { undone, useAct } from "@/ui/useAct";
import type { QuestionInput, QuestionsView } from "../server/questionSettings";
import { ListBar, ListTable, RowButtons } from "./ListForm";

type Row = Omit<QuestionInput, "help"> & { readonly help: string };

/** The questions deals are judged by. A change makes a new edition from today on; earlier scores stay as they were. */
export function QuestionsPanel({ view, mayChange }: { view: QuestionsView; mayChange: boolean }) {
	const { control, register, watch, reset, formState } = useForm<{ questions: Row[] }>({
		values: { questions: view.questions.map((question) => ({ ...question, help: question.help ?? "" })) },
	});
	const rows = useFieldArray({ control, name: "questions", keyName: "row" });
	const list = watch("questions");
	const run = useRun();
	const act = useAct();
	const discard = () => reset();
	const save = () => {
		const questions = list.map((question): QuestionInput => ({ ...question, help: question.help || null }));
		return act(run("setup.saveQuestions", { questions }), "Questions saved, effective from today.", (done) =>
			undone(run("setup.undoQuestions", { change: done.change }), discard),
		);
	};
	const since = view.editions[0];
	return (
		<div>
			<p className="second">
				{since ? `This edition applies since ${longDate(since)}; it is the ${ordinal(view.editions.length)}. ` : "The first edition. "}
				Changing a question creates a new edition from today on; strength, coverage and gaps of earlier days stay as they were.
				{!mayChange && " Ops can change them."}
			</p>
			<ListTable
				of="Questions"
				className="questions-table"
				mayChange={mayChange}
				heads={["Area", "Question and help", "Weight", "Due at", "Key", "Deals answered"]}
			>
				{rows.fields.map(({ row, id }, i) => (
					<QuestionRow key={row} form={{ register, rows, list }} at={i} stages={view.stages} answered={id ? (view.answers[id] ?? 0) : null} />
				))}
			</ListTable>
			{mayChange && (
				<ListBar
					add={
						<Button
							variant="outline-primary"
							onClick={() =>
								rows.append({ id: null, area: list.at(-1)?.area ?? "Need", prompt: "", help: "", weight: 1, due: 1, key: false }, { shouldFocus: false })
							}
						>
							Add a question
						</Button>
					}
					changed={formState.isDirty}
					discard={discard}
					save={() => void save()}
					label="Save as the edition from today on"
				/>
			)}
		</div>
	);
}

interface RowProps {
	readonly form: {
		readonly register: UseFormRegister<{ questions: Row[] }>;
		readonly rows: UseFieldArrayReturn<{ questions: Row[] }, "questions", "row">;
		readonly list: readonly Row[];
	};
	readonly at: number;
	readonly stages: readonly string[];
	/** deals that answered it; null: nobody can have yet */
	readonly answered: number | null;
}

function QuestionRow({ form: { register, rows, list }, at, stages, answered }: RowProps) {
	const question = list[at];
	const weight = question?.weight ?? 0;
	return (
		<tr>
			<td>
				<Form.Control size="sm" aria-label="Area" maxLength={100} {...register(`questions.${at}.area`)} />
			</td>
			<td>
				<Form.Control size="sm" aria-label="Question" maxLength={500} {...register(`questions.${at}.prompt`)} />
				<Form.Control
					size="sm"
					className="mt-1 tiny"
					aria-label="Help"
					placeholder="Help for the person asking"
					maxLength={2000}
					{...register(`questions.${at}.help`)}
				/>
			</td>
			<td>
				<Form.Control
					size="sm"
					type="number"
					step="any"
					aria-label="Weight"
					className="setting"
					isInvalid={!(weight > 0 && weight <= 1_000_000)}
					{...register(`questions.${at}.weight`, { valueAsNumber: true })}
				/>
			</td>
			<td>
				<Form.Select size="sm" aria-label="Due at" {...register(`questions.${at}.due`, { valueAsNumber: true })}>
					{stages.map((stage, n) => (
						<option key={stage} value={n + 1}>
							{stage}
						</option>
					))}
					{(question?.due ?? 0) > stages.length && <option value={question?.due}>no stage</option>}
				</Form.Select>
			</td>
			<td>
				<Form.Check aria-label="Key question" {...register(`questions.${at}.key`)} />
			</td>
			<td className="num second">{answered ?? "new"}</td>
			<RowButtons
				rows={rows}
				at={at}
				count={list.length}
				name={question?.prompt ?? ""}
				gone={{ label: `Retire question: ${question?.prompt ?? ""}`, title: "Retire question; existing answers stay" }}
			/>
		</tr>
	);
}

const ordinal = (n: number) =>
	`${n}${n % 10 === 1 && n % 100 !== 11 ? "st" : n % 10 === 2 && n % 100 !== 12 ? "nd" : n % 10 === 3 && n % 100 !== 13 ? "rd" : "th"}`;
