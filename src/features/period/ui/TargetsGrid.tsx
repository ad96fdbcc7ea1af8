"use client";
import type { ClipboardEvent } from "react";
import { Button, Form } from "react-bootstrap";
import { byCount, plural } from "@/core/words/grammar";
import { fullAmount, longDate } from "@/ui/format";
import { Scrolls } from "@/ui/parts/Scrolls";
import type { TargetsView } from "../server/targets";
import { type Beside, keyOf, sum } from "./targetCells";

export interface GridProps {
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
export function Grid({ view, besides, textOf, isFault, countsIn, write, paste }: GridProps) {
	// Long: one table, its columns in their order.
	return (
		<Scrolls of="Targets" className="panel p-0">
			<table className="table mb-0 targets-table">
				<thead>
					<tr>
						<th>Person</th>
						{view.quarters.map((quarter) => (
							<th key={quarter.start} className="num">
								{quarter.label}
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
											aria-label={`${person.name}, ${quarter.label}`}
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

export interface SaveBarProps {
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
export function SaveBar({ fault, changed, doubled, beside, setBeside, onDiscard, onSave }: SaveBarProps) {
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
