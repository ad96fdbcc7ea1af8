"use client";
import { type ClipboardEvent, useEffect, useMemo, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { plural } from "@/core/time/words";
import { fullAmount, longDate, money } from "@/ui/format";
import { Scrolls } from "@/ui/parts/Scrolls";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { TargetRow, TargetsView } from "../server/targets";
import { pastedCells, readTyped, typedOf } from "../table/grid";

const keyOf = (personId: string, start: string) => `${personId}\n${start}`;

/** People by quarters: typed, pasted from a spreadsheet, with their sums; of all that is won or of a product family. */
export function TargetsPanel({ view }: { view: TargetsView }) {
	const [family, setFamily] = useState("");
	const grid = useMemo(() => gridOf(view, family), [view, family]);
	const [typed, setTyped] = useState<ReadonlyMap<string, string>>(new Map());
	// biome-ignore lint/correctness/useExhaustiveDependencies: what was typed belongs to the grid it was typed into
	useEffect(() => setTyped(new Map()), [grid]);
	const run = useRun();
	const act = useAct();
	const textOf = (key: string) => typed.get(key) ?? grid.texts.get(key) ?? "";
	const readCell = (key: string) => readTyped(textOf(key), view.currency);
	const baseOf = (key: string) => {
		const value = readCell(key);
		if (typeof value === "string" || value.amount === null) return 0;
		return value.currency === view.currency ? value.amount : inBase(value.amount, value.currency, view);
	};
	const changed = [...typed].filter(([key, text]) => text.trim() !== (grid.texts.get(key) ?? ""));
	const faults = changed.flatMap(([key]) => {
		const value = readCell(key);
		const [personId] = key.split("\n");
		return typeof value === "string" ? [`${view.people.find(({ id }) => id === personId)?.name}: ${value}.`] : [];
	});
	const write = (key: string, text: string) => setTyped((now) => new Map(now).set(key, text));
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
	const save = () =>
		act(
			run("period.saveTargets", {
				cells: changed.flatMap(([key, text]) => {
					const value = readTyped(text, view.currency);
					const [personId = "", start = ""] = key.split("\n");
					const end = view.quarters.find((quarter) => quarter.start === start)?.end ?? "";
					return typeof value === "string" ? [] : [{ personId, start, end, family, ...value }];
				}),
			}),
			`${plural(changed.length, "target")} changed.`,
			(done) => run("period.undoTargets", { change: done.change }),
		);
	return (
		<div>
			<p className="second">
				What each person is to win by quarter. Paste a block from a spreadsheet into any cell; another currency by its code, as in “100 000 GBP”. Sums are in{" "}
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
			<Scrolls of="Targets" className="panel p-0">
				<table className="table mb-0 targets-table">
					<thead>
						<tr>
							<th>Person</th>
							{view.quarters.map((quarter) => (
								<th key={quarter.start} className="num">
									{quarter.words}
								</th>
							))}
							<th className="num">Sum</th>
						</tr>
					</thead>
					<tbody>
						{view.people.map((person, r) => (
							<tr key={person.id}>
								<th scope="row">
									{person.name}
									<span className="second small-text d-block">
										{person.team ?? "no team"}
										{person.left && ", has left"}
									</span>
								</th>
								{view.quarters.map((quarter, c) => {
									const key = keyOf(person.id, quarter.start);
									return (
										<td key={quarter.start}>
											<Form.Control
												size="sm"
												className="num"
												inputMode="decimal"
												aria-label={`${person.name}, ${quarter.words}`}
												isInvalid={typeof readCell(key) === "string"}
												value={textOf(key)}
												onChange={(event) => write(key, event.target.value)}
												onPaste={(event) => paste(event, r, c)}
											/>
										</td>
									);
								})}
								<td className="num">{fullAmount(sum(view.quarters.map((quarter) => baseOf(keyOf(person.id, quarter.start)))), view.currency)}</td>
							</tr>
						))}
						<tr>
							<th scope="row">All</th>
							{view.quarters.map((quarter) => (
								<td key={quarter.start} className="num">
									<b>{fullAmount(sum(view.people.map((person) => baseOf(keyOf(person.id, quarter.start)))), view.currency)}</b>
								</td>
							))}
							<td className="num">
								<b>
									{fullAmount(sum(view.people.flatMap((person) => view.quarters.map((quarter) => baseOf(keyOf(person.id, quarter.start))))), view.currency)}
								</b>
							</td>
						</tr>
					</tbody>
				</table>
			</Scrolls>
			<Others rows={grid.others} view={view} />
			{(changed.length > 0 || faults.length > 0) && (
				<div className="setup-bar" role="status">
					<span className={faults.length ? "text-danger small-text" : "second"}>{faults[0] ?? `${plural(changed.length, "target")} not saved yet.`}</span>
					<div className="d-flex gap-2">
						<Button variant="link" onClick={() => setTyped(new Map())}>
							Discard
						</Button>
						<Button disabled={faults.length > 0 || !changed.length} onClick={() => void save()}>
							Save the targets
						</Button>
					</div>
				</div>
			)}
		</div>
	);
}

const sum = (amounts: readonly number[]) => amounts.reduce((total, amount) => total + amount, 0);

/** An amount of another currency in minor units of the base: `rates` are minor units of the base for one of the other. */
const inBase = (amount: number, currency: string, view: TargetsView): number => Math.round(amount * (view.rates[currency] ?? 0));

/** What stands in the cells of a family, and the targets of other days, which no cell holds. */
function gridOf(view: TargetsView, family: string): { texts: ReadonlyMap<string, string>; others: readonly TargetRow[] } {
	const own = view.targets.filter((target) => target.family === family);
	const isQuarter = (target: TargetRow) => view.quarters.some(({ start, end }) => start === target.start && end === target.end);
	return {
		texts: new Map(own.filter(isQuarter).map((target) => [keyOf(target.personId, target.start), typedOf(target.amount, target.currency, view.currency)])),
		others: own.filter((target) => !isQuarter(target) && target.end >= (view.quarters[0]?.start ?? "")),
	};
}

/** Targets of days that are none of the grid's quarters: they count by the days they share with a period. */
function Others({ rows, view }: { rows: readonly TargetRow[]; view: TargetsView }) {
	const run = useRun();
	const act = useAct();
	if (!rows.length) return null;
	const remove = ({ personId, start, end, family, currency }: TargetRow) =>
		act(run("period.saveTargets", { cells: [{ personId, start, end, family, currency, amount: null }] }), "The target is taken away.", (done) =>
			run("period.undoTargets", { change: done.change }),
		);
	return (
		<>
			<h3 className="mt-3">Of other days</h3>
			<ul className="rows small-text">
				{rows.map((row) => (
					<li key={`${row.personId} ${row.start} ${row.end}`}>
						<span>
							{view.people.find(({ id }) => id === row.personId)?.name}, {longDate(row.start)} – {longDate(row.end)}: {money(row.amount, row.currency)}
						</span>
						<Button size="sm" variant="link" onClick={() => void remove(row)}>
							Take away
						</Button>
					</li>
				))}
			</ul>
		</>
	);
}
