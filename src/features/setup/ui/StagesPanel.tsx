"use client";
import { Button, Form } from "react-bootstrap";
import { type UseFieldArrayReturn, type UseFormRegister, useFieldArray, useForm } from "react-hook-form";
import { useRun } from "@/ui/run";
import { undone, useAct } from "@/ui/useAct";
import type { Habits } from "../server/habitSettings";
import type { StageInput, StageView } from "../server/stageSettings";
import { HabitsForm } from "./HabitsForm";
import { ListBar, ListTable, RowButtons } from "./ListForm";
import { RulesEffect, useRulesEffect } from "./RulesEffect";

type Row = StageInput & { readonly used: number; readonly open: number; readonly chance: number };

/** Per cent as they are shown; a chance that nobody touches keeps all its digits. */
const percent = (probability: number) => Math.round(probability * 1000) / 10;

const plain = (items: readonly StageInput[]) =>
	items.map(({ was, name, kind, probability, usualDays }): StageInput => ({ was, name, kind, probability, usualDays }));

/** The part of stages that figures hang on, as text to compare. */
const chancesOf = (items: readonly StageInput[]) =>
	JSON.stringify({
		stages: items.flatMap(({ was, probability, usualDays }) =>
			was !== null && Number.isFinite(probability) && Number.isFinite(usualDays) ? [{ name: was, probability, usualDays }] : [],
		),
	});

/** The stages in order, and the habits that hang on them. */
export function StagesPanel({ stages, habits, mayChange, currency }: { stages: readonly StageView[]; habits: Habits; mayChange: boolean; currency: string }) {
	const { control, register, watch, reset, formState } = useForm<{ stages: Row[] }>({
		values: { stages: stages.map((stage) => ({ ...stage, chance: percent(stage.probability) })) },
	});
	const rows = useFieldArray({ control, name: "stages", keyName: "row" });
	const list = watch("stages");
	const run = useRun();
	const act = useAct();
	const wished = () => plain(list.map((item) => (item.chance === percent(item.probability) ? item : { ...item, probability: item.chance / 100 })));
	const wish = chancesOf(wished());
	const moves = wish !== chancesOf(stages);
	const effect = useRulesEffect(mayChange && moves ? wish : null);
	/** The stages as they were, named by what they are called once these are kept. */
	const back = () => {
		const now = new Map(list.flatMap((item) => (item.was === null ? [] : [[item.was, item.name] as const])));
		return plain(stages).map((stage) => ({ ...stage, was: now.get(stage.name) ?? null }));
	};
	const add = () => {
		const fresh: Row = { was: null, name: "", kind: "open", probability: 0.5, chance: 50, usualDays: 10, used: 0, open: 0 };
		rows.insert(list.findLastIndex((item) => item.kind === "open") + 1, fresh, { shouldFocus: false });
	};
	return (
		<div>
			<p className="second">
				A renamed stage keeps its deals and its past. When the order changes, steps forward and back are counted in the new order. A stage that deals were in
				can’t be removed.
			</p>
			<ListTable
				of="Stages"
				className="stages-table"
				mayChange={mayChange}
				heads={["Stage", "For deals that are", "Chance %", "Usual working days", "Deals now"]}
				figures={["Deals now"]}
			>
				{rows.fields.map(({ row, used, open }, i) => (
					<StageRow key={row} form={{ register, rows, list }} at={i} used={used} open={open} />
				))}
			</ListTable>
			{mayChange && (
				<ListBar
					add={
						<Button variant="outline-primary" onClick={add}>
							Add a stage
						</Button>
					}
					changed={formState.isDirty}
					discard={() => reset()}
					save={() =>
						void act(run("setup.saveStages", { stages: wished() }), "Stages saved.", () => undone(run("setup.saveStages", { stages: back() }), () => reset()))
					}
					label="Save stages"
					effect={moves && <RulesEffect state={effect} currency={currency} />}
					waits={moves && !effect.on}
				/>
			)}
			<h2 className="mt-4">Habits</h2>
			<HabitsForm habits={habits} stages={stages.filter((stage) => stage.kind === "open").map((stage) => stage.name)} mayChange={mayChange} />
		</div>
	);
}

interface RowProps {
	readonly form: {
		readonly register: UseFormRegister<{ stages: Row[] }>;
		readonly rows: UseFieldArrayReturn<{ stages: Row[] }, "stages", "row">;
		readonly list: readonly Row[];
	};
	readonly at: number;
	/** how often a deal stood in it */
	readonly used: number;
	readonly open: number;
}

function StageRow({ form: { register, rows, list }, at, used, open }: RowProps) {
	return (
		<tr>
			<td>
				<Form.Control size="sm" aria-label="Name of the stage" maxLength={100} {...register(`stages.${at}.name`)} />
			</td>
			<td>
				<Form.Select size="sm" aria-label="Kind of stage" {...register(`stages.${at}.kind`)} disabled={used > 0}>
					<option>open</option>
					<option>won</option>
					<option>lost</option>
				</Form.Select>
			</td>
			<td>
				<Form.Control
					size="sm"
					type="number"
					step="any"
					className="setting"
					aria-label="Chance in per cent"
					min={0}
					max={100}
					{...register(`stages.${at}.chance`, { valueAsNumber: true })}
				/>
			</td>
			<td>
				<Form.Control
					size="sm"
					type="number"
					step="any"
					className="setting"
					aria-label="Usual working days"
					min={0}
					{...register(`stages.${at}.usualDays`, { valueAsNumber: true })}
				/>
			</td>
			<td className="num second">{open}</td>
			<RowButtons
				rows={rows}
				at={at}
				count={list.length}
				name={list[at]?.name ?? ""}
				gone={{ label: `Remove ${list[at]?.name ?? ""}`, title: used > 0 ? `Deals were in it ${used} times` : "Remove", not: used > 0 }}
			/>
		</tr>
	);
}
