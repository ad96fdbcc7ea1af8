"use client";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useCallback, useEffect, useState } from "react";
import { Button } from "react-bootstrap";
import { useHotkeys } from "react-hotkeys-hook";
import { byCount, plural } from "@/core/words/grammar";
import { useRun } from "@/ui/run";
import { useAct, useRefresh } from "@/ui/useAct";
import type { QueueDeal, RoundCurrent, RoundView } from "../server/readRound";
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
	// Long: one page, its parts in their order.
	const calls = useCalls(view.id);
	const { waiting, sending } = calls;
	const [aside, setAside] = useState(false);
	const [asking, setAsking] = useState(false);
	const { at, place, go, next, unsaid, called } = useWay(view, asked, calls, aside);
	const { end, drop } = useEnding(view);
	const walk = view.kind === "walk";
	const finish = () => {
		setAsking(false);
		void end();
	};
	const current = view.queue[place];
	const loaded = view.current && view.current.id === at ? view.current : null;
	return (
		<div className="round" aria-busy={at !== (view.current?.id ?? null)}>
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
					onEnd={() => (unsaid.length ? setAsking(true) : finish())}
				/>
			</div>
			{view.due.map((plan) => (
				<DuePlan key={plan.id} round={view} plan={plan} />
			))}
			<EndAsk
				show={asking}
				walk={walk}
				unsaid={unsaid.map(({ name }) => name)}
				onEnd={finish}
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
				{current && (
					<Saying key={`said of ${current.id}`} view={view} deal={current} current={loaded} calls={calls} onDone={() => next(current.id)} onAside={setAside} />
				)}
			</div>
		</div>
	);
}

interface SayingProps {
	readonly view: RoundView;
	readonly deal: QueueDeal;
	/** null while it is being read */
	readonly current: RoundCurrent | null;
	readonly calls: ReturnType<typeof useCalls>;
	readonly onDone: () => void;
	readonly onAside: (aside: boolean) => void;
}

/** What is said of a deal: its call, or what a walk decides. */
function Saying({ calls: { send, behind, newest, waiting }, ...props }: SayingProps) {
	if (props.view.kind === "walk") return <WalkPanel {...props} behind={behind} newest={newest} />;
	return <CallPanel {...props} send={send} waits={waiting.some(({ dealId }) => dealId === props.deal.id)} />;
}

/** Where in the queue one is, by keys and after each call; what is called, and what isn’t yet. */
function useWay(view: RoundView, asked: string | null, { sending, waiting }: ReturnType<typeof useCalls>, aside: boolean) {
	const router = useRouter();
	const follow = useCallback((dealId: string) => router.push(`/rounds/${view.id}?deal=${encodeURIComponent(dealId)}`, { scroll: false }), [router, view.id]);
	const { at, go, now } = useSteps(view.id, view.current?.id ?? null, view.mayHold, follow);
	const placeOf = (id: string | null) => view.queue.findIndex((deal) => deal.id === id);
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
	// Each deal is read from its top by the one who went to it; those who follow stay where they have scrolled.
	// biome-ignore lint/correctness/useExhaustiveDependencies: only another deal scrolls
	useEffect(() => {
		if (view.mayHold) window.scrollTo({ top: 0 });
	}, [at]);
	return { at, place: placeOf(at), go, next, unsaid, called: view.queue.filter(({ call, id }) => call || saidOf(id)).length };
}

/** Ends or deletes a round. */
function useEnding({ id, kind }: RoundView) {
	const run = useRun();
	const act = useAct();
	const refresh = useRefresh();
	const router = useRouter();
	const end = async () => {
		const words = kind === "walk" ? "Walk ended." : "Round ended; its minutes go to everyone concerned.";
		const done = await act(run("rounds.end", { id }), words, (ended) => run("rounds.reopen", { id: ended.id }));
		if (done) refresh();
	};
	const drop = async () => {
		const done = await act(run("rounds.drop", { id }), "Round deleted.");
		if (done) router.push("/rounds");
	};
	return { end, drop };
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
