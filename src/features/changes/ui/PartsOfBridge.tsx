"use client";
import { change, fullAmount } from "@/ui/format";
import { Scrolls } from "@/ui/parts/Scrolls";
import type { ChangedStep, ChangesView } from "../server/changesView";

const SHOWN = 30;

interface Props {
	readonly view: ChangesView;
	readonly moved: readonly ChangedStep[];
	readonly chosen: { readonly part: string | null; readonly step: string | null };
	readonly onPick: (part: string, step: string | null) => void;
}

/** The bridge by the parts of a field: every row adds up from its opening to its closing, every cell opens its deals. */
export function PartsOfBridge({ view, moved, chosen, onPick }: Props) {
	const { currency, fields, by } = view;
	const words = fields.find((field) => field.key === by)?.label ?? by;
	const steps = moved.filter((step) => step.kind !== "opening" && step.kind !== "closing");
	const between = view.parts.some((part) => part.between !== 0);
	const shown = view.parts.slice(0, SHOWN);
	const cell = (part: string, step: string, amount: number, text: string) => (
		<Cell key={step} amount={amount} text={text} pressed={chosen.part === part && chosen.step === step} onPick={() => onPick(part, step)} />
	);
	return (
		<Scrolls of={`The steps by ${words}`} className="panel p-0 mt-3">
			<table className="table">
				<caption className="visually-hidden">
					The bridge by {words}, in {currency}
				</caption>
				<thead>
					<tr>
						<th>By {words}</th>
						<th className="num">{view.steps[0]?.name}</th>
						{steps.map((step) => (
							<th key={step.kind} className="num">
								{step.name}
							</th>
						))}
						{between && <th className="num">Between parts</th>}
						<th className="num">{view.steps.at(-1)?.name}</th>
						<th className="num">Net</th>
					</tr>
				</thead>
				<tbody>
					{shown.map((part) => (
						<tr key={part.part} className={part.part === chosen.part ? "river-row" : ""}>
							<td>
								<button type="button" className="plain-button trend-day" aria-pressed={part.part === chosen.part} onClick={() => onPick(part.part, null)}>
									{part.part}
								</button>
							</td>
							{cell(part.part, "opening", part.opening, fullAmount(part.opening, currency))}
							{steps.map((step) => cell(part.part, step.kind, part.steps[step.kind] ?? 0, change(part.steps[step.kind] ?? 0, currency)))}
							{between && <td className="num">{part.between ? change(part.between, currency) : <span className="third">–</span>}</td>}
							{cell(part.part, "closing", part.closing, fullAmount(part.closing, currency))}
							<td className={`num ${part.net > 0 ? "gained" : part.net < 0 ? "worse" : "third"}`}>{change(part.net, currency)}</td>
						</tr>
					))}
				</tbody>
				<Sums view={view} steps={steps} between={between} />
			</table>
			{view.parts.length > shown.length && (
				<p className="tiny second px-2 mb-2">
					The {SHOWN} with the largest change; the other {view.parts.length - SHOWN} are in the line below them.
				</p>
			)}
		</Scrolls>
	);
}

function Cell({ amount, text, pressed, onPick }: { amount: number; text: string; pressed: boolean; onPick: () => void }) {
	return (
		<td className="num">
			{amount === 0 ? (
				<span className="third">–</span>
			) : (
				<button type="button" className="plain-button flow-cell" aria-pressed={pressed} onClick={onPick}>
					{text}
				</button>
			)}
		</td>
	);
}

function Sums({ view, steps, between }: { view: ChangesView; steps: readonly ChangedStep[]; between: boolean }) {
	const { currency } = view;
	return (
		<tfoot>
			<tr>
				<th>All {view.parts.length}</th>
				<th className="num">{fullAmount(view.opening, currency)}</th>
				{steps.map((step) => (
					<th key={step.kind} className="num">
						{change(step.leaves ? -step.amount : step.amount, currency)}
					</th>
				))}
				{between && <th className="num">{change(0, currency)}</th>}
				<th className="num">{fullAmount(view.closing, currency)}</th>
				<th className="num">{change(view.closing - view.opening, currency)}</th>
			</tr>
		</tfoot>
	);
}
