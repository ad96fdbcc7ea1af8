"use client";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect, useState, useTransition } from "react";
import { Button } from "react-bootstrap";
import { useHotkeys } from "react-hotkeys-hook";
import { plural } from "@/core/time/words";
import { useRun } from "@/ui/run";
import { useAct, useRefresh } from "@/ui/useAct";
import type { RoundView } from "../server/readRound";
import { CallPanel } from "./CallPanel";
import { DealPane } from "./DealPane";
import { Queue } from "./Queue";
import { TotalsStrip } from "./TotalsStrip";
import { useCalls } from "./useCalls";
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
	const [moving, start] = useTransition();
	const { send, waiting } = useCalls(view.id);
	const [aside, setAside] = useState(false);
	const at = view.current?.id ?? null;
	const place = view.queue.findIndex(({ id }) => id === at);
	const walk = view.kind === "walk";
	const go = async (dealId: string | undefined) => {
		if (!dealId || dealId === at) return;
		if (!view.mayHold) return start(() => router.push(`/rounds/${view.id}?deal=${encodeURIComponent(dealId)}`, { scroll: false }));
		if (asked) router.replace(`/rounds/${view.id}`, { scroll: false });
		const done = await run("rounds.goTo", { id: view.id, dealId });
		if (done.ok) start(() => refresh());
	};
	const step = (by: number) => void go(view.queue[Math.min(view.queue.length - 1, Math.max(0, place + by))]?.id);
	const next = () => {
		// After a call the round goes on to the next one that hasn't been called.
		const rest = [...view.queue.slice(place + 1), ...view.queue.slice(0, Math.max(0, place))];
		void go(rest.find((deal) => !deal.call && deal.status === "open" && !waiting.some(({ dealId }) => dealId === deal.id))?.id);
	};
	const keys = { enabled: !aside, enableOnFormTags: false } as const;
	useHotkeys("j", () => step(1), keys, [view, place]);
	useHotkeys("k", () => step(-1), keys, [view, place]);
	useHotkeys("s", () => at && window.open(`/deals/${encodeURIComponent(at)}`, "_blank"), keys, [at]);
	// Each deal is read from its top by whoever went to it; those who follow stay where they have scrolled.
	// biome-ignore lint/correctness/useExhaustiveDependencies: only another deal scrolls
	useEffect(() => {
		if (view.mayHold) window.scrollTo({ top: 0 });
	}, [at]);
	const called = view.queue.filter(({ call, id }) => call || waiting.some(({ dealId }) => dealId === id)).length;
	const end = async () => {
		const done = await act(
			run("rounds.end", { id: view.id }),
			walk ? "The walk is done." : "The round has ended; its minutes go to everybody concerned.",
			({ id }) => run("rounds.reopen", { id }),
		);
		if (done) refresh();
	};
	const drop = async () => {
		const done = await act(run("rounds.drop", { id: view.id }), "The round is taken away.");
		if (done) router.push("/rounds");
	};
	const current = view.queue[place];
	return (
		<div className="round" aria-busy={moving}>
			<div className="round-head">
				{walk ? (
					<p className="sheet-headline">
						{called === view.queue.length ? `All ${plural(called, "deal")} decided` : `${called} of ${plural(view.queue.length, "deal")} decided`}
					</p>
				) : (
					<TotalsStrip totals={view.totals} currency={view.currency} partial={view.partial} />
				)}
				<div className="round-tools no-print">
					{waiting.length > 0 && (
						<span className="worse small-text" role="status">
							{plural(waiting.length, "call")} {waiting.length === 1 ? "waits" : "wait"} to be sent; {waiting.length === 1 ? "it goes" : "they go"} by{" "}
							{waiting.length === 1 ? "itself" : "themselves"}.
						</span>
					)}
					{asked && !view.mayHold && (
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
						<Button size="sm" variant="link" onClick={() => void drop()}>
							Take it away
						</Button>
					)}
					{view.mayHold && (
						<Button size="sm" variant={called === view.queue.length ? "primary" : "outline-primary"} onClick={() => void end()}>
							{walk ? "End the walk" : "End the round"}
						</Button>
					)}
				</div>
			</div>
			<div className="round-three">
				<Queue view={view} at={at} called={called} waiting={waiting} onGo={(id) => void go(id)} />
				{view.current && current ? (
					<DealPane key={`deal ${view.current.id}`} view={view} current={view.current} />
				) : (
					<div className="panel empty">
						<h2>No deal of yours is in it</h2>
						<p>Its deals are others’ now, or were taken out.</p>
					</div>
				)}
				{view.current &&
					current &&
					(walk ? (
						<WalkPanel key={`said of ${current.id}`} view={view} deal={current} current={view.current} onDone={next} onAside={setAside} />
					) : (
						<CallPanel
							key={`said of ${current.id}`}
							view={view}
							deal={current}
							current={view.current}
							send={send}
							onDone={next}
							onAside={setAside}
							waits={waiting.some(({ dealId }) => dealId === current.id)}
						/>
					))}
			</div>
		</div>
	);
}
