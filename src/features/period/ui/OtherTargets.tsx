"use client";
import { Button } from "react-bootstrap";
import { plural } from "@/core/words/grammar";
import { longDate, money } from "@/ui/format";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { TargetRow, TargetsView } from "../server/targets";

/** Targets of days that are none of the grid's quarters: they count by the days they share with a period. */
export function Others({ rows, view }: { rows: readonly TargetRow[]; view: TargetsView }) {
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
