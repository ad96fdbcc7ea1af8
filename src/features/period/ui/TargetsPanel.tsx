"use client";
import { type ClipboardEvent, useEffect, useMemo, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { multiplyRounded } from "@/core/money/decimal";
import { byCount, plural } from "@/core/words/grammar";
import { dayNumber, fullAmount, longDate, money } from "@/ui/format";
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
	const besides = new Map(
		view.people.flatMap(({ id }) => view.quarters.flatMap((quarter) => [[keyOf(id, quarter.start), countedBeside(grid.others, id, quarter)] as const])),
	);
	const doubled = changed.filter(([key, text]) => text.trim() && (besides.get(key)?.length ?? 0) > 0).length;
	/** what counts in a cell's days in all: what stands in it, and its share of targets of other days */
	const countsIn = (key: string) => baseOf(key) + sum((besides.get(key) ?? []).map(({ part }) => part));
	const [beside, setBeside] = useState(false);
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
				beside,
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
				countsIn={countsIn}
				write={write}
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

type Beside = ReturnType<typeof countedBeside>;

interface GridProps {
	readonly view: TargetsView;
	readonly besides: ReadonlyMap<string, Beside>;
	/** of a cell by its key, as of all below */
	readonly textOf: (key: string) => string;
	readonly isFault: (key: string) => boolean;
	readonly countsIn: (key: string) => number;
	readonly write: (key: string, text: string) => void;
	readonly paste: (event: ClipboardEvent, row: number, column: number) => void;
}

/** People by quarters, each cell to be typed or pasted into, with the sums of both. */
function Grid({ view, besides, textOf, isFault, countsIn, write, paste }: GridProps) {
	return (
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
											isInvalid={isFault(key)}
											value={textOf(key)}
											onChange={(event) => write(key, event.target.value)}
											onPaste={(event) => paste(event, r, c)}
										/>
										{besides.get(key)?.map(({ row, part }) => (
											<span
												key={row.start}
												className="tiny second d-block text-nowrap"
												title={`From the target for ${longDate(row.start)} – ${longDate(row.end)}`}
											>
												+ {fullAmount(part, view.currency)} already
											</span>
										))}
									</td>
								);
							})}
							<td className="num">{fullAmount(sum(view.quarters.map((quarter) => countsIn(keyOf(person.id, quarter.start)))), view.currency)}</td>
						</tr>
					))}
					<tr>
						<th scope="row">All</th>
						{view.quarters.map((quarter) => (
							<td key={quarter.start} className="num">
								<b>{fullAmount(sum(view.people.map((person) => countsIn(keyOf(person.id, quarter.start)))), view.currency)}</b>
							</td>
						))}
						<td className="num">
							<b>
								{fullAmount(sum(view.people.flatMap((person) => view.quarters.map((quarter) => countsIn(keyOf(person.id, quarter.start))))), view.currency)}
							</b>
						</td>
					</tr>
				</tbody>
			</table>
		</Scrolls>
	);
}

interface SaveBarProps {
	readonly fault: string | null;
	readonly changed: number;
	/** cells whose days other targets count in already */
	readonly doubled: number;
	readonly beside: boolean;
	readonly setBeside: (beside: boolean) => void;
	readonly onDiscard: () => void;
	readonly onSave: () => void;
}

/** What isn’t saved yet, or what is wrong with it. */
function SaveBar({ fault, changed, doubled, beside, setBeside, onDiscard, onSave }: SaveBarProps) {
	return (
		<div className="setup-bar" role="status">
			<span className={fault ? "text-danger small-text" : "second"}>
				{fault ?? `${plural(changed, "target")} not saved yet.`}
				{doubled > 0 && (
					<Form.Check
						id="targets-beside"
						label={`Add ${byCount(doubled, "one of them", `${doubled} of them`)} in addition to what other targets already count`}
						checked={beside}
						onChange={(event) => setBeside(event.target.checked)}
					/>
				)}
			</span>
			<div className="d-flex gap-2">
				<Button variant="link" onClick={onDiscard}>
					Discard
				</Button>
				<Button disabled={fault !== null || !changed || (doubled > 0 && !beside)} onClick={onSave}>
					Save targets
				</Button>
			</div>
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

/** What targets of other days count in somebody's quarter already, each by the days it shares with it; base minor units. */
function countedBeside(others: readonly TargetRow[], personId: string, quarter: { readonly start: string; readonly end: string }) {
	return others.flatMap((row) => {
		const [from, to] = [row.start > quarter.start ? row.start : quarter.start, row.end < quarter.end ? row.end : quarter.end];
		if (row.personId !== personId || from > to) return [];
		const days = (a: string, b: string) => dayNumber(b) - dayNumber(a) + 1;
		return [{ row, part: multiplyRounded(row.base, days(from, to), days(row.start, row.end)) }];
	});
}

/** Targets of days that are none of the grid's quarters: they count by the days they share with a period. */
function Others({ rows, view }: { rows: readonly TargetRow[]; view: TargetsView }) {
	const run = useRun();
	const act = useAct();
	if (!rows.length) return null;
	const keys = (list: readonly TargetRow[]) => list.map(({ personId, start, end, family }) => ({ personId, start, end, family }));
	const carry = (list: readonly TargetRow[]) =>
		act(run("period.carryTargets", { targets: keys(list) }), `${plural(list.length, "target")} converted to these quarters.`, (done) =>
			run("period.undoTargets", { change: done.change }),
		);
	const remove = ({ personId, start, end, family, currency }: TargetRow) =>
		act(run("period.saveTargets", { cells: [{ personId, start, end, family, currency, amount: null }] }), "Target deleted.", (done) =>
			run("period.undoTargets", { change: done.change }),
		);
	return (
		<>
			<h3 className="mt-3">Targets for other periods</h3>
			<p className="second small-text mb-1">
				They count in each quarter by the days they share with it.{" "}
				<Button size="sm" variant="link" className="p-0" onClick={() => void carry(rows)}>
					Convert all to these quarters
				</Button>
			</p>
			<ul className="rows small-text">
				{rows.map((row) => (
					<li key={`${row.personId} ${row.start} ${row.end}`}>
						<span>
							{view.people.find(({ id }) => id === row.personId)?.name}, {longDate(row.start)} – {longDate(row.end)}: {money(row.amount, row.currency)}
						</span>
						<span>
							<Button size="sm" variant="link" onClick={() => void carry([row])}>
								Carry over
							</Button>
							<Button size="sm" variant="link" onClick={() => void remove(row)}>
								Delete target
							</Button>
						</span>
					</li>
				))}
			</ul>
		</>
	);
}
