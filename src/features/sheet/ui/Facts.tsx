"use client";
import { type ReactNode, useState } from "react";
import { Alert, Button } from "react-bootstrap";
import { useHotkeys } from "react-hotkeys-hook";
import { FIELDS, valueWords } from "@/core/deal/fields";
import type { FieldKey } from "@/core/deal/state";
import { EditBox } from "@/features/deals/ui/edit/EditBox";
import { longDate, money, nearDate, spaced } from "@/ui/format";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { SheetView } from "../server/sheetView";

/** Its newest version is dated after today: until that is corrected, what is shown is older than it, and nothing can be changed. */
function Ahead({ view, on }: { view: SheetView; on: string }) {
	const run = useRun();
	const act = useAct();
	return (
		<Alert variant="warning" className="small-text">
			The newest version of this deal is dated {longDate(on)}, after today, so it isn’t shown and the deal can’t be changed.{" "}
			{view.mayEdit && (
				<Button size="sm" variant="link" className="p-0" onClick={() => void act(run("deals.correctAhead", { id: view.id }), "Date set to today.")}>
					Set its date to today
				</Button>
			)}
		</Alert>
	);
}

/** fields that aren’t worded in a way of their own */
const MORE = FIELDS.filter(({ key, edited }) => edited === "alone" && !["stage", "amount", "closeDate", "category", "ownerId", "nextStep"].includes(key));

/** The deal's fields, each changed where it stands. */
export function Facts({ view, keys = false }: { view: SheetView; keys?: boolean }) {
	// Long: one list, its fields in their order.
	const [editing, setEditing] = useState<{ field: FieldKey; target: HTMLElement } | null>(null);
	useHotkeys(
		"e",
		(event) => {
			event.preventDefault();
			const target = document.querySelector<HTMLElement>(".facts .cell-edit");
			if (target) setEditing({ field: "closeDate", target });
		},
		{ enabled: keys && view.mayEdit && !editing },
	);
	const fact = (field: FieldKey, words: string, value: ReactNode) => (
		<div key={field} className={`fact fact-${field}`}>
			<dt>{words}</dt>
			<dd>
				{view.mayEdit && (field !== "ownerId" || view.choices.owners.length > 0) ? (
					<button
						type="button"
						className="cell-edit"
						title={`Change the ${words.toLowerCase()}`}
						onClick={(event) => setEditing({ field, target: event.currentTarget })}
					>
						{value}
					</button>
				) : (
					value
				)}
			</dd>
		</div>
	);
	return (
		<>
			{view.ahead && <Ahead view={view} on={view.ahead} />}
			<dl className="facts">
				{fact("stage", "Stage", view.stage)}
				{fact("amount", "Amount", <Amount view={view} />)}
				{fact("closeDate", "Close date", view.close ? longDate(view.close) : "blank")}
				{fact("category", "Category", spaced(view.category) || "none")}
				{fact(
					"ownerId",
					"Owner",
					<>
						{view.owner}
						{!view.ownerActive && view.owner !== "No owner" && <span className="tiny second"> has left</span>}
					</>,
				)}
				{fact("nextStep", "Next step", <NextStep view={view} />)}
				{MORE.map((field) =>
					fact(field.key, field.label, valueWords(field, view.state[field.key], { stages: [], currency: view.ownCurrency, person: String })),
				)}
			</dl>
			{editing && (
				<EditBox
					key={editing.field}
					deal={view}
					field={editing.field}
					target={editing.target}
					choices={view.choices}
					today={view.seen}
					onClose={() => setEditing(null)}
				/>
			)}
		</>
	);
}

function Amount({ view: { ownAmount, ownCurrency, amount, baseCurrency } }: { view: SheetView }) {
	if (ownAmount === null) return "blank";
	return (
		<>
			{money(ownAmount, ownCurrency)}
			{ownCurrency !== baseCurrency && <span className="tiny second"> {money(amount, baseCurrency)}</span>}
		</>
	);
}

function NextStep({ view: { nextStep, nextStepDay, seen } }: { view: SheetView }) {
	const past = nextStepDay !== null && nextStepDay < seen;
	return (
		<>
			{nextStep ?? <span className="third">none</span>}
			{nextStepDay && (
				<span className={past ? "worse" : "second"}>
					, {nearDate(nextStepDay, seen)}
					{past && " (past)"}
				</span>
			)}
		</>
	);
}
