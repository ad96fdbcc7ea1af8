"use client";
import type { Light } from "@/core/attention/attention";
import { findCall } from "@/core/rounds/calls";
import { shortMoney } from "@/ui/format";
import { Lamp } from "@/ui/parts/Lamp";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { QueueDeal, RoundView } from "../server/readRound";
import { DECISION_WORDS, type Decision } from "../table/kinds";

interface Props {
	readonly view: RoundView;
	readonly at: string | null;
	readonly called: number;
	readonly waiting: readonly { readonly dealId: string; readonly call: string }[];
	/** what was said and is being sent */
	readonly sending: readonly { readonly dealId: string; readonly call: string }[];
	readonly onGo: (id: string) => void;
}

const wordsOf = (call: string) => findCall(call)?.label.toLowerCase() ?? DECISION_WORDS[call as Decision] ?? call;

/** The deals of a round in their order, with what was called; put at another place by their arrows. */
export function Queue({ view, at, called, waiting, sending, onGo }: Props) {
	const run = useRun();
	const act = useAct();
	const place = (deal: QueueDeal, to: number) => act(run("rounds.place", { id: view.id, dealId: deal.id, place: to }));
	const said = (deal: QueueDeal) => {
		const waits = waiting.find(({ dealId }) => dealId === deal.id);
		if (waits) return `${wordsOf(waits.call)} (waits)`;
		const sent = sending.find(({ dealId }) => dealId === deal.id);
		if (sent) return wordsOf(sent.call);
		if (deal.call) return wordsOf(deal.call.call);
		if (deal.status !== "open") return deal.status;
		return deal.resting ? "at rest" : "";
	};
	return (
		<nav className="panel p-0 queue" aria-label="The deals of the round">
			<div className="queue-head">
				<b>
					{called} of {view.queue.length}
				</b>{" "}
				<span className="small-text second">{view.kind === "walk" ? "decided" : "called"}</span>
				<span className="round-bar" aria-hidden="true">
					<i style={{ width: `${view.queue.length ? (100 * called) / view.queue.length : 0}%` }} />
				</span>
				{view.hidden > 0 && <span className="tiny second d-block">{view.hidden} of others aren’t shown</span>}
			</div>
			<ol>
				{view.queue.map((deal, i) => (
					<li key={deal.id} className={deal.id === at ? "here" : ""}>
						<button type="button" className="plain-button" aria-current={deal.id === at ? "true" : undefined} onClick={() => onGo(deal.id)}>
							<Lamp level={deal.level as Light} size={16} />
							<span className="queue-words">
								<span className="queue-name">{deal.name}</span>
								<span className="tiny second">
									{shortMoney(deal.amount, view.currency)}
									{said(deal) && ` · ${said(deal)}`}
								</span>
							</span>
						</button>
						{view.mayHold && deal.id === at && view.queue.length > 1 && (
							<span className="queue-move no-print">
								<button type="button" className="plain-button" aria-label={`Earlier: ${deal.name}`} disabled={i === 0} onClick={() => void place(deal, i - 1)}>
									↑
								</button>
								<button
									type="button"
									className="plain-button"
									aria-label={`Later: ${deal.name}`}
									disabled={i === view.queue.length - 1}
									onClick={() => void place(deal, i + 1)}
								>
									↓
								</button>
							</span>
						)}
					</li>
				))}
			</ol>
		</nav>
	);
}
