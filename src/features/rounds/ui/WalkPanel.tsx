"use client";
import { useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { useRun } from "@/ui/run";
import { useRefresh } from "@/ui/useAct";
import type { QueueDeal, RoundCurrent, RoundView } from "../server/readRound";
import { DECISION_WORDS, type Decision } from "../table/kinds";
import { PromiseLine, useGive } from "./DealPane";
import { RestForm } from "./RestForm";

interface Props {
	readonly view: RoundView;
	readonly deal: QueueDeal;
	readonly current: RoundCurrent;
	readonly onDone: () => void;
	readonly onAside: (aside: boolean) => void;
}

/** What a walk decides of a deal: its remedy is given, it was looked at, or it rests. */
export function WalkPanel({ view, deal, current, onDone, onAside }: Props) {
	const run = useRun();
	const refresh = useRefresh();
	const [resting, setResting] = useState(false);
	const give = useGive(view, current);
	const [flag] = current.sheet.flags;
	const may = view.mayHold && deal.status === "open";
	const rest = (on: boolean) => {
		setResting(on);
		onAside(on);
	};
	const decide = async (decision: Decision, why?: string) => {
		const done = await run("rounds.decide", { id: view.id, dealId: deal.id, decision, ...(why ? { why } : {}) });
		refresh();
		if (done.ok) onDone();
	};
	const remedy = async () => {
		if (flag && (await give(flag.remedy, [flag.code]))) await decide("remedy", flag.remedy);
	};
	const keys = {
		enabled: may && !resting,
		enableOnFormTags: false,
		preventDefault: true,
		ignoreEventWhen: (event: KeyboardEvent) => (event.target as HTMLElement).closest(".question") !== null,
	};
	useHotkeys("1", () => void remedy(), keys, [deal, current]);
	useHotkeys("2", () => void decide("look"), keys, [deal]);
	useHotkeys("3", () => rest(true), keys, [deal]);
	const button = (key: string, decision: Decision, words: string, means: string, press: () => void, disabled = false) => (
		<button type="button" className="call" aria-pressed={deal.call?.call === decision} disabled={!may || disabled} onClick={press}>
			<b>{words}</b>
			<span className="tiny">{means}</span>
			<span className="call-key" aria-hidden="true">
				{key}
			</span>
		</button>
	);
	return (
		<aside className="panel call-panel" aria-label="What is decided">
			<h3>What is to be done</h3>
			<div className="calls" role="group" aria-label="Decide">
				{button("1", "remedy", "Give the remedy", flag ? `${current.sheet.owner}: ${flag.remedy}` : "no flag is lit", () => void remedy(), !flag)}
				{button("2", "look", "Looked at", "nothing is to be done now", () => void decide("look"))}
				{button("3", "rest", "Let it rest", "till a day, with a reason", () => rest(true), deal.resting)}
			</div>
			{resting && (
				<RestForm
					dealId={deal.id}
					today={current.sheet.seen}
					give
					onDone={(reason) => {
						rest(false);
						if (reason !== null) void decide("rest", reason);
					}}
				/>
			)}
			{deal.call && (
				<p className="small-text second">
					{DECISION_WORDS[deal.call.call as Decision] ?? deal.call.call}
					{deal.call.why && `: ${deal.call.why}`}
				</p>
			)}
			{current.agreed.length > 0 && (
				<ul className="rows small-text">
					{current.agreed.map((promise) => (
						<PromiseLine key={promise.id} promise={promise} names={view.flagNames} />
					))}
				</ul>
			)}
			<p className="tiny second mt-2 mb-0 no-print">1–3 decide · J next · K back · E change · S sheet</p>
		</aside>
	);
}
