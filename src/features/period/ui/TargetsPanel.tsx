"use client";
import { type ClipboardEvent, useEffect, useMemo, useState } from "react";
import { Form } from "react-bootstrap";
import { plural } from "@/core/words/grammar";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { TargetsView } from "../server/targets";
import { pastedCells, readTyped } from "../table/grid";
import { Others } from "./OtherTargets";
import { Grid, SaveBar } from "./TargetsGrid";
import { countedBeside, gridOf, inBase, keyOf, sum } from "./targetCells";

/** People by quarters: typed, pasted from a spreadsheet, with their sums; of all that is won or of a product family. */
export function TargetsPanel({ view }: { view: TargetsView }) {
	const [family, setFamily] = useState("");
	const grid = useMemo(() => gridOf(view, family), [view, family]);
	const { changed, setTyped, textOf, readCell, baseOf, paste } = useTyped(view, grid);
	const faults = changed.flatMap(([key]) => {
		const value = readCell(key);
		const [personId] = key.split("\n");
		return typeof value === "string" ? [`${view.people.find(({ id }) => id === personId)?.name}: ${value}.`] : [];
	});
	const besides = new Map(
		view.people.flatMap(({ id }) => view.quarters.flatMap((quarter) => [[keyOf(id, quarter.start), countedBeside(grid.others, id, quarter)] as const])),
	);
	const doubled = changed.filter(([key, text]) => text.trim() && (besides.get(key)?.length ?? 0) > 0).length;
	const [beside, setBeside] = useState(false);
	const save = useSave(view, family, changed, beside);
	return (
		<div>
			<p className="second">
				Each person’s target by quarter. Paste a block from a spreadsheet into any cell; another currency by its code, as in “100 000 GBP”. Sums are in{" "}
				{view.currency} at today’s rates.
			</p>
			<Form.Select size="sm" className="w-auto mb-2" aria-label="What the targets are for" value={family} onChange={(event) => setFamily(event.target.value)}>
				<option value="">All that is won</option>
				{view.families.map((one) => (
					<option key={one} value={one}>
						Focus: {one}
					</option>
				))}
			</Form.Select>
			<Grid
				view={view}
				besides={besides}
				textOf={textOf}
				isFault={(key) => typeof readCell(key) === "string"}
				countsIn={(key) => baseOf(key) + sum((besides.get(key) ?? []).map(({ part }) => part))}
				write={(key, text) => setTyped((now) => new Map(now).set(key, text))}
				paste={paste}
			/>
			<Others rows={grid.others} view={view} />
			{(changed.length > 0 || faults.length > 0) && (
				<SaveBar
					fault={faults[0] ?? null}
					changed={changed.length}
					doubled={doubled}
					beside={beside}
					setBeside={setBeside}
					onDiscard={() => setTyped(new Map())}
					onSave={() => void save()}
				/>
			)}
		</div>
	);
}

/** What was typed or pasted over a grid’s cells, and what it says. */
function useTyped(view: TargetsView, grid: ReturnType<typeof gridOf>) {
	const [typed, setTyped] = useState<ReadonlyMap<string, string>>(new Map());
	// biome-ignore lint/correctness/useExhaustiveDependencies: what was typed belongs to the grid it was typed into
	useEffect(() => setTyped(new Map()), [grid]);
	const textOf = (key: string) => typed.get(key) ?? grid.texts.get(key) ?? "";
	const readCell = (key: string) => readTyped(textOf(key), view.currency);
	const baseOf = (key: string) => {
		const value = readCell(key);
		if (typeof value === "string" || value.amount === null) return 0;
		return value.currency === view.currency ? value.amount : inBase(value.amount, value.currency, view);
	};
	const paste = (event: ClipboardEvent, row: number, column: number) => {
		const cells = pastedCells(event.clipboardData.getData("text"));
		if (cells.length === 1 && cells[0]?.length === 1) return;
		event.preventDefault();
		setTyped((now) => {
			const next = new Map(now);
			cells.forEach((line, r) => {
				line.forEach((text, c) => {
					const [person, quarter] = [view.people[row + r], view.quarters[column + c]];
					if (person && quarter) next.set(keyOf(person.id, quarter.start), text.trim());
				});
			});
			return next;
		});
	};
	const changed = [...typed].filter(([key, text]) => text.trim() !== (grid.texts.get(key) ?? ""));
	return { changed, setTyped, textOf, readCell, baseOf, paste };
}

/** Saves the changed cells; those that can’t be read stay as they are. */
function useSave(view: TargetsView, family: string, changed: readonly (readonly [string, string])[], beside: boolean) {
	const run = useRun();
	const act = useAct();
	const cells = changed.flatMap(([key, text]) => {
		const value = readTyped(text, view.currency);
		const [personId = "", start = ""] = key.split("\n");
		const end = view.quarters.find((quarter) => quarter.start === start)?.end ?? "";
		return typeof value === "string" ? [] : [{ personId, start, end, family, ...value }];
	});
	return () =>
		act(run("period.saveTargets", { beside, cells }), `${plural(changed.length, "target")} changed.`, (done) =>
			run("period.undoTargets", { change: done.change }),
		);
}
