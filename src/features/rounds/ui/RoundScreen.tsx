"use client";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useCallback, useEffect, useState } from "react";
import { Button } from "react-bootstrap";
import { useHotkeys } from "react-hotkeys-hook";
import { byCount, plural } from "@/core/words/grammar";
import { useRun } from "@/ui/run";
import { useAct, useRefresh } from "@/ui/useAct";
import type { RoundView } from "../server/readRound";
import { CallPanel } from "./CallPanel";
import { ComingDeal, DealPane } from "./DealPane";
import { DuePlan } from "./DuePlan";
import { EndAsk } from "./EndAsk";
import { Queue } from "./Queue";
import { TotalsStrip } from "./TotalsStrip";
import { useCalls } from "./useCalls";
import { useSteps } from "./useSteps";
import { WalkPanel } from "./WalkPanel";
import "@/features/deals/ui/deals.css";
import "@/features/sheet/ui/sheet.css";
import "@/ui/parts/parts.css";
import "./rounds.css";

/**
 * A round under way: its queue, one deal at a time, and the call. Those who hold it are all at the same deal; whoever
 * only takes part follows them, or looks at another deal by themselves (`asked`).
 */
export function RoundScreen({ view, asked }: { view: RoundView; asked: string | null }) {
	const run = useRun();
	const act = useAct();
	const refresh = useRefresh();
	const router = useRouter();
	const { send, waiting, sending, behind, newest } = useCalls(view.id);
	const [aside, setAside] = useState(false);
	const [asking, setAsking] = useState(false);
	const read = view.current?.id ?? null;
	const follow = useCallback((dealId: string) => router.push(`/rounds/${view.id}?deal=${encodeURIComponent(dealId)}`, { scroll: false }), [router, view.id]);
	const { at, go, now } = useSteps(view.id, read, view.mayHold, follow);
	const placeOf = (id: string | null) => view.queue.findIndex((deal) => deal.id === id);
	const place = placeOf(at);
	const walk = view.kind === "walk";
	const step = (by: number) => {
		if (asked && view.mayHold) router.replace(`/rounds/${view.id}`, { scroll: false });
		go(view.queue[Math.min(view.queue.length - 1, Math.max(0, placeOf(now()) + by))]?.id);
	};
	const saidOf = (id: string) => [...sending, ...waiting].some(({ dealId }) => dealId === id);
	const unsaid = view.queue.filter((deal) => !deal.call && deal.status === "open" && !saidOf(deal.id));
	const next = (said: string) => {
		// After a call the round goes on to the next one that hasn't been called.
		const from = placeOf(said);
		const rest = [...view.queue.slice(from + 1), ...view.queue.slice(0, Math.max(0, from))];
		go(rest.find((deal) => deal.id !== said && unsaid.includes(deal))?.id);
	};
	const keys = { enabled: !aside, enableOnFormTags: false } as const;
	useHotkeys("j", () => step(1), keys, [view]);
	useHotkeys("k", () => step(-1), keys, [view]);
	useHotkeys("s", () => now() && window.open(`/deals/${encodeURIComponent(now() ?? "")}`, "_blank"), keys, [now]);
	// Each deal is read from its top by whoever went to it; those who follow stay where they have scrolled.
	// biome-ignore lint/correctness/useExhaustiveDependencies: only another deal scrolls
	useEffect(() => {
		if (view.mayHold) window.scrollTo({ top: 0 });
	}, [at]);
	const called = view.queue.filter(({ call, id }) => call || saidOf(id)).length;
	const end = async () => {
		setAsking(false);
		const done = await act(run("rounds.end", { id: view.id }), walk ? "Walk ended." : "Round ended; its minutes go to everyone concerned.", ({ id }) =>
			run("rounds.reopen", { id }),
		);
		if (done) refresh();
	};
	const drop = async () => {
		const done = await act(run("rounds.drop", { id: view.id }), "Round deleted.");
		if (done) router.push("/rounds");
	};
	const current = view.queue[place];
	const loaded = view.current && view.current.id === at ? view.current : null;
	return (
		<div className="round" aria-busy={at !== read}>
			<div className="round-head">
				{walk ? (
					<p className="sheet-headline">
						{called === view.queue.length ? `All ${plural(called, "deal")} decided` : `${called} of ${plural(view.queue.length, "deal")} decided`}
					</p>
				) : (
					<TotalsStrip totals={view.totals} currency={view.currency} partial={view.partial} />
				)}
				<Tools
					view={view}
					waiting={waiting.length}
					alone={Boolean(asked) && !view.mayHold}
					called={called}
					onDrop={() => void drop()}
					onEnd={() => (unsaid.length ? setAsking(true) : void end())}
				/>
			</div>
			{view.due.map((plan) => (
				<DuePlan key={plan.id} round={view} plan={plan} />
			))}
			<EndAsk
				show={asking}
				walk={walk}
				unsaid={unsaid.map(({ name }) => name)}
				onEnd={() => void end()}
				onStay={() => {
					setAsking(false);
					go(unsaid[0]?.id);
				}}
			/>
			<div className="round-three">
				<Queue view={view} at={at} called={called} waiting={waiting} sending={sending} onGo={go} />
				{loaded ? (
					<DealPane key={`deal ${loaded.id}`} view={view} current={loaded} />
				) : current ? (
					<ComingDeal deal={current} currency={view.currency} />
				) : (
					<div className="panel empty">
						<h2>None of your deals is in it</h2>
						<p>Its deals belong to others now, or were removed.</p>
					</div>
				)}
				{current &&
					(walk ? (
						<WalkPanel
							key={`said of ${current.id}`}
							view={view}
							deal={current}
							current={loaded}
							behind={behind}
							newest={newest}
							onDone={() => next(current.id)}
							onAside={setAside}
						/>
					) : (
						<CallPanel
							key={`said of ${current.id}`}
							view={view}
							deal={current}
							current={loaded}
							send={send}
							onDone={() => next(current.id)}
							onAside={setAside}
							waits={waiting.some(({ dealId }) => dealId === current.id)}
						/>
					))}
			</div>
		</div>
	);
}

interface ToolsProps {
	readonly view: RoundView;
	/** calls that couldn’t be sent yet */
	readonly waiting: number;
	/** looks at a deal of their own choice, while the others are at another */
	readonly alone: boolean;
	/** deals that are called */
	readonly called: number;
	readonly onDrop: () => void;
	readonly onEnd: () => void;
}

/** What can be done with the round itself. */
function Tools({ view, waiting, alone, called, onDrop, onEnd }: ToolsProps) {
	const walk = view.kind === "walk";
	return (
		<div className="round-tools no-print">
			{waiting > 0 && (
				<span className="worse small-text" role="status">
					{plural(waiting, "call")} {byCount(waiting, "waits", "wait")} to be sent; {byCount(waiting, "it goes", "they go")} by{" "}
					{byCount(waiting, "itself", "themselves")}.
				</span>
			)}
			{alone && (
				<Link className="small-text" href={`/rounds/${view.id}`} scroll={false}>
					Follow the round
				</Link>
			)}
			{!walk && (
				<Link className="small-text" href={`/rounds/${view.id}?show=minutes`}>
					Minutes so far
				</Link>
			)}
			{view.mayHold && called === 0 && (
				<Button size="sm" variant="link" onClick={onDrop}>
					Delete
				</Button>
			)}
			{view.mayHold && (
				<Button size="sm" variant={called === view.queue.length ? "primary" : "outline-primary"} onClick={onEnd}>
					{walk ? "End the walk" : "End the round"}
				</Button>
			)}
		</div>
	);
}
