"use client";
import { useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { CALLS, type Call, callKind } from "@/core/rounds/calls";
import { shortDate, spaced } from "@/ui/format";
import { Term } from "@/ui/parts/Term";
import { type Input, useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { QueueDeal, RoundCurrent, RoundView } from "../server/readRound";
import { CallForm } from "./CallForm";
import { Agreed } from "./DealPane";
import { PromiseForm } from "./PromiseForm";
import { RoundNote } from "./RoundNote";

interface Props {
	readonly view: RoundView;
	readonly deal: QueueDeal;
	/** null while it is being read: it is called by what the queue says of it */
	readonly current: RoundCurrent | null;
	readonly send: (call: Input<"rounds.call">) => Promise<boolean>;
	readonly onDone: () => void;
	/** something else has the keys: a form is open */
	readonly onAside: (aside: boolean) => void;
	/** its call waits to be sent */
	readonly waits: boolean;
}

/** The call on a deal, beside what its rep says; what is promised, and a note. */
export function CallPanel({ view, deal, current, send, onDone, onAside, waits }: Props) {
	// Long: the calls, their keys and their form are one state.
	const [asking, setAsking] = useState<Call | null>(null);
	const open = deal.status === "open";
	const may = view.mayHold && open;
	const ask = (call: Call | null) => {
		setAsking(call);
		onAside(call !== null);
	};
	const say = (call: Call) => {
		if (!may) return;
		if (callKind(call).asks) return ask(call);
		void send({ id: view.id, dealId: deal.id, call, seen: deal.newest });
		onDone();
	};
	const keys = {
		enabled: may && asking === null,
		enableOnFormTags: false,
		preventDefault: true,
		ignoreEventWhen: (event: KeyboardEvent) => (event.target as HTMLElement).closest(".question") !== null,
	};
	CALLS.forEach((call, i) => {
		// biome-ignore lint/correctness/useHookAtTopLevel: the calls are always the same
		useHotkeys(String(i + 1), () => say(call), keys, [deal, view, asking]);
	});
	return (
		<aside className="panel call-panel" aria-label="The call">
			<h3>
				{view.mayHold ? "Your " : "The "}
				<Term of="call">call</Term>
			</h3>
			<p className="small-text second mb-2">
				{deal.owner} says <b>{spaced(deal.category) || "nothing"}</b>
				{deal.close && <>, due {shortDate(deal.close)}</>}
			</p>
			{!open && <p className="small-text worse">It is {deal.status} since, so it can’t be called.</p>}
			<div className="calls" role="group" aria-label="Call">
				{CALLS.map((call, i) => (
					<button key={call} type="button" className="call" aria-pressed={(asking ?? deal.call?.call) === call} disabled={!may} onClick={() => say(call)}>
						<b>{callKind(call).label}</b>
						<span className="tiny">{callKind(call).means}</span>
						<span className="call-key" aria-hidden="true">
							{i + 1}
						</span>
					</button>
				))}
			</div>
			{asking && !current && <p className="small-text second">Loading the deal …</p>}
			{asking && current && (
				<CallForm
					call={asking}
					view={view}
					deal={deal}
					current={current}
					onLeave={() => ask(null)}
					onSay={async (more) => {
						if (!(await send({ id: view.id, dealId: deal.id, call: asking, seen: deal.newest, ...more }))) return;
						ask(null);
						onDone();
					}}
				/>
			)}
			{!asking && <Said view={view} deal={deal} may={may} />}
			{waits && <p className="small-text worse mb-1">This call is waiting to be sent.</p>}
			<section>
				<h3>Promised in this round</h3>
				<Agreed view={view} current={current} />
				{view.mayNote && open && current && <PromiseForm view={view} current={current} onAside={onAside} />}
			</section>
			<RoundNote view={view} deal={deal} onAside={onAside} />
			<p className="tiny second mt-2 mb-0 no-print">1–{CALLS.length} call · J next · K back · T promise · N note · E change · S sheet</p>
		</aside>
	);
}

/** The call that a deal has, with its reason and whose it is. */
function Said({ view, deal, may }: Pick<Props, "view" | "deal"> & { may: boolean }) {
	const run = useRun();
	const act = useAct();
	const back = () => deal.newest !== null && act(run("rounds.takeCallBack", { id: view.id, dealId: deal.id, seen: deal.newest }), "Call undone.");
	if (!deal.call) return null;
	const { to, why, left, by } = deal.call;
	return (
		<p className="small-text second mb-1">
			{to && `To ${shortDate(to)}. `}
			{why && `${why}. `}
			{left === "deal" ? "Deal changed. " : left === "task" ? "Saved as a promise. " : ""}
			{by}.{" "}
			{may && (
				<button type="button" className="plain-button tiny text-decoration-underline" onClick={() => void back()}>
					Undo call
				</button>
			)}
		</p>
	);
}
