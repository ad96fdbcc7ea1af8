"use client";
import { Button } from "react-bootstrap";
import { byCount } from "@/core/words/grammar";
import { money, shortMoney } from "@/ui/format";
import type { FrameView } from "@/ui/frame/view";
import type { DealsView } from "../server/readDeals";
import { totals } from "../table/groups";
import type { DealRow } from "../table/row";
import { AlsoOpen } from "./AlsoOpen";
import { StartRoundSlot } from "./slots";

interface Props {
	readonly view: DealsView;
	readonly due: FrameView["sentence"]["due"];
	/** what is shown of the period, and what it comes to */
	readonly rows: readonly DealRow[];
	readonly sum: ReturnType<typeof totals>;
	/** what is shown because it is carried over; it isn’t in the sum */
	readonly carried: readonly DealRow[];
	/** null where nothing is selected, or nothing could be done with it */
	readonly chosen: readonly DealRow[] | null;
	readonly onAssign: () => void;
	readonly onChange: (() => void) | undefined;
	readonly onClear: () => void;
}

/** The win rate by hand: how many of the closed deals that are shown were won, by count and by amount. */
function WonOf({ rows, currency }: { rows: readonly DealRow[]; currency: string }) {
	const won = rows.filter(({ status }) => status === "won");
	const [part, whole] = [totals(won).amount, totals(rows).amount];
	const share = (k: number, n: number) => (n ? ` (${Math.round((100 * k) / n)}%)` : "");
	return (
		<>
			{" "}
			· {won.length} of {rows.length} won{share(won.length, rows.length)}, {shortMoney(part, currency)} of {shortMoney(whole, currency)}
			{share(part, whole)}
		</>
	);
}

/** Under the table: what it comes to, and what can be done with the deals that are selected. */
export function DealsFoot({ view, due, rows, sum, carried, chosen, onAssign, onChange, onClear }: Props) {
	return (
		<div className="deals-foot">
			<div className="small-text second">
				<b>{rows.length}</b> {byCount(rows.length, "deal", "deals")} ·{" "}
				<span title={money(sum.amount, view.currency)}>
					{shortMoney(sum.amount, view.currency)} {view.status}
				</span>
				{view.status === "closed" && <WonOf rows={rows} currency={view.currency} />}
				{view.status === "open" && (
					<>
						{" "}
						·{" "}
						<span title={`${money(sum.weighted, view.currency)}: each amount times its stage’s probability`}>
							{shortMoney(sum.weighted, view.currency)} weighted
						</span>
						{carried.length > 0 && (
							<>
								{" "}
								— and <b>{carried.length}</b> carried over, {shortMoney(totals(carried).amount, view.currency)}
							</>
						)}
						<AlsoOpen also={view.also} due={due} />
					</>
				)}
			</div>
			{chosen && (
				<div className="d-flex gap-2 align-items-center no-print">
					<span className="small-text" aria-live="polite">
						{chosen.length} selected · {shortMoney(totals(chosen).amount, view.currency)}
						<span className="second"> · {shortMoney(totals(chosen).weighted, view.currency)} weighted</span>
					</span>
					<Button size="sm" disabled={!chosen.length} onClick={onAssign}>
						{chosen.length > 1 ? "Give a task to each owner" : "Give a task"}
					</Button>
					{onChange && (
						<Button size="sm" variant="outline-primary" disabled={!chosen.length} onClick={onChange}>
							Change
						</Button>
					)}
					{view.status === "open" && <StartRoundSlot dealIds={chosen.map(({ id }) => id)} due={due.key} />}
					<Button size="sm" variant="link" onClick={onClear}>
						Clear
					</Button>
				</div>
			)}
		</div>
	);
}
