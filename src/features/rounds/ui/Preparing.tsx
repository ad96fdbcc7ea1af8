"use client";
import Link from "next/link";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { useHotkeys } from "react-hotkeys-hook";
import type { Light } from "@/core/attention/attention";
import type { Ask, AskKind } from "@/core/rounds/asks";
import { plural } from "@/core/words/grammar";
import { nearDate } from "@/ui/format";
import { Lamp } from "@/ui/parts/Lamp";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { Preparation } from "../server/preparation";
import "./rounds.css";

const TOGETHER: Readonly<Partial<Record<AskKind, string>>> = { "missing answer": "Not answered", "stale answer": "Answered long ago", flag: "Lit" };

/** What is asked, a line each; questions and flags together in one. */
function linesOf(asks: readonly Ask[]): { lead: string; words: string }[] {
	const lines: { lead: string; words: string }[] = [];
	for (const { kind, words } of asks) {
		const lead = TOGETHER[kind] ?? "";
		const before = lead ? lines.find((one) => one.lead === lead) : undefined;
		const said = kind === "flag" ? (words.split(": ")[0] ?? words) : words;
		if (before) before.words += kind === "flag" ? `, ${said}` : ` · ${said}`;
		else lines.push({ lead, words: said });
	}
	return lines;
}

/** What the next round will ask, deal by deal, to be put right: J and K go through them, Enter opens one, R says it is ready. */
export function Preparing({ preparation, today, mayChange }: { preparation: Preparation; today: string; mayChange: boolean }) {
	// Long: one page, its parts in their order.
	const { next, deals, prepared } = preparation;
	const run = useRun();
	const act = useAct();
	const asking = deals.filter(({ asks }) => asks.length > 0);
	const [at, setAt] = useState(0);
	const [all, setAll] = useState(false);
	const here = asking[at];
	const move = (to: number) => {
		const place = Math.min(asking.length - 1, Math.max(0, to));
		setAt(place);
		if (place > 4) setAll(true);
		document.querySelector(`[data-asked="${CSS.escape(asking[place]?.id ?? "")}"]`)?.scrollIntoView({ block: "nearest" });
	};
	const ready = (dealId: string, on: boolean) => act(run("rounds.sayReady", { dealId, ready: on }));
	const keys = { enabled: asking.length > 0, enableOnFormTags: false } as const;
	useHotkeys("j", () => move(at + 1), keys, [at, asking.length]);
	useHotkeys("k", () => move(at - 1), keys, [at, asking.length]);
	useHotkeys("r", () => here && mayChange && void ready(here.id, !here.ready), keys, [here, mayChange]);
	useHotkeys("o", () => here && window.location.assign(`/deals/${encodeURIComponent(here.id)}`), keys, [here]);
	if (!deals.length) return null;
	return (
		<section className="mt-4" aria-label="Before the next round">
			<h2>{next ? `${next.name}, ${next.on === today ? "today" : nearDate(next.on, today)}` : "Before the next round"}</h2>
			<p className="second small-text">
				{asking.length ? (
					<>
						It will ask about {asking.length} of {deals.length} deals; {plural(prepared, "is", "are")} ready. J and K go through them, O opens one, R says it is
						ready.
					</>
				) : (
					"No open questions about your deals of this period."
				)}
			</p>
			{asking.slice(0, all ? asking.length : 5).map((deal, i) => (
				<div key={deal.id} className={`panel asked ${i === at ? "here" : ""}`} data-asked={deal.id}>
					<div className="d-flex justify-content-between gap-2">
						<span>
							<Lamp level={deal.level as Light} size={16} />{" "}
							<Link href={`/deals/${encodeURIComponent(deal.id)}`}>
								<b>{deal.name}</b>
							</Link>{" "}
							<span className="second small-text">{deal.account}</span>
						</span>
						{mayChange && (
							<Form.Check
								id={`ready-${deal.id}`}
								label="ready"
								checked={deal.ready}
								onChange={(event) => void ready(deal.id, event.target.checked)}
								className="small-text text-nowrap"
							/>
						)}
					</div>
					<ul className="asks small-text">
						{linesOf(deal.asks).map(({ lead, words }) => (
							<li key={lead + words}>
								{lead && <span className="second">{lead}: </span>}
								{words}
							</li>
						))}
					</ul>
				</div>
			))}
			{!all && asking.length > 5 && (
				<Button size="sm" variant="link" onClick={() => setAll(true)}>
					All {asking.length}
				</Button>
			)}
		</section>
	);
}
