"use client";
import { useEffect, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { useNotice } from "@/ui/Notices";
import { useRun } from "@/ui/run";
import type { QueueDeal, RoundCurrent, RoundView } from "../server/readRound";
import { DECISION_WORDS, type Decision } from "../table/kinds";
import { Agreed, useGive } from "./DealPane";
import { RestForm } from "./RestForm";
import type { useBehind } from "./useBehind";

interface Props {
	readonly view: RoundView;
	readonly deal: QueueDeal;
	/** null while it is being read */
	readonly current: RoundCurrent | null;
	readonly behind: ReturnType<typeof useBehind>["behind"];
	readonly newest: ReturnType<typeof useBehind>["newest"];
	readonly onDone: () => void;
	readonly onAside: (aside: boolean) => void;
}

/** What a walk decides of a deal: its remedy is given, it was looked at, or it rests. */
export function WalkPanel({ view, deal, current, behind, newest, onDone, onAside }: Props) {
	const [resting, setResting] = useState(false);
	const flag = current?.sheet.flags[0];
	const may = view.mayHold && deal.status === "open";
	const rest = (on: boolean) => {
		setResting(on);
		onAside(on);
	};
	const { decide, remedy } = useDeciding({ view, deal, current, behind, newest, onDone, onAside });
	const keys = {
		enabled: may && !resting,
		enableOnFormTags: false,
		preventDefault: true,
		ignoreEventWhen: (event: KeyboardEvent) => (event.target as HTMLElement).closest(".question") !== null,
	};
	useHotkeys("1", remedy, keys, [deal, current]);
	useHotkeys("2", () => decide("look"), keys, [deal]);
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
		<aside className="panel call-panel" aria-label="Decision">
			<h3>Decide</h3>
			<div className="calls" role="group" aria-label="Decide">
				{button(
					"1",
					"remedy",
					"Give the remedy",
					flag ? `${deal.owner}: ${flag.remedy}` : current ? "no flag is lit" : "being read …",
					remedy,
					Boolean(current) && !flag,
				)}
				{button("2", "look", "Seen, nothing to do", "nothing to do now", () => decide("look"))}
				{button("3", "rest", "Give rest", "until a day, with a reason", () => rest(true), deal.resting)}
			</div>
			{resting && (
				<RestForm
					dealId={deal.id}
					today={current?.sheet.seen ?? view.on}
					give
					onDone={(reason) => {
						rest(false);
						if (reason !== null) decide("rest", reason);
					}}
				/>
			)}
			<Decided view={view} deal={deal} current={current} />
			<p className="tiny second mt-2 mb-0 no-print">1–3 decide · J next · K back · E change · S sheet</p>
		</aside>
	);
}

/** What is decided is sent behind: the walk goes on at once. */
function useDeciding({ view, deal, current, behind, newest, onDone }: Props) {
	const run = useRun();
	const notice = useNotice();
	const [wanted, setWanted] = useState(false);
	const give = useGive(view, current);
	const flag = current?.sheet.flags[0];
	/** Goes on at once; what was decided is sent behind, after what has to be done first. */
	const decide = (decision: Decision, why?: string, first: () => Promise<boolean> = async () => true) => {
		void behind(deal.id, decision, async () => {
			if (!(await first())) return null;
			const done = await run("rounds.decide", { id: view.id, dealId: deal.id, decision, seen: newest(deal.id) ?? deal.newest, ...(why ? { why } : {}) });
			if (done.ok) return done.result.id;
			notice({ words: `${deal.name}: ${done.detail}` });
			return null;
		});
		onDone();
	};
	const remedy = () => {
		// Pressed while the deal is being read, it is done as soon as its remedy is known.
		if (!current) setWanted(true);
		else if (flag) decide("remedy", flag.remedy, () => give(flag.remedy, [flag.code]));
	};
	// biome-ignore lint/correctness/useExhaustiveDependencies: what was pressed is done once, when the deal is read
	useEffect(() => {
		if (!current || !wanted) return;
		setWanted(false);
		remedy();
	}, [current, wanted]);
	return { decide, remedy };
}

/** What was decided of a deal, and what was given with it. */
function Decided({ view, deal, current }: Pick<Props, "view" | "deal" | "current">) {
	return (
		<>
			{deal.call && (
				<p className="small-text second">
					{DECISION_WORDS[deal.call.call as Decision] ?? deal.call.call}
					{deal.call.why && `: ${deal.call.why}`}
				</p>
			)}
			<Agreed view={view} current={current} />
		</>
	);
}
