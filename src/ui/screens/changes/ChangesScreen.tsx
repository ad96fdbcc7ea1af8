"use client";
import Link from "next/link";
import { parseAsString, useQueryState } from "nuqs";
import { Alert } from "react-bootstrap";
import type { ChangesView } from "@/usecases/readChanges";
import { change, money } from "../../format";
import type { FrameView } from "../frame/view";
import { BridgeChart } from "./BridgeChart";
import { ChangedDeals } from "./ChangedDeals";
import "../../parts/parts.css";
import "./changes.css";

/** Deals without a close date have no period to be compared in. */
export function NoPeriod() {
	return (
		<div className="empty">
			<h2>A bridge needs a period</h2>
			<p>Deals without a close date belong to none. Choose a period in the sentence above.</p>
		</div>
	);
}

/** What moved between two days: the finding, the bridge, and the deals behind each step. */
export function ChangesScreen({ view, frame }: { view: ChangesView | null; frame: FrameView["sentence"] }) {
	const [rep, setRep] = useQueryState("rep", parseAsString.withOptions({ shallow: true, history: "replace" }));
	const [step, setStep] = useQueryState("step", parseAsString.withOptions({ shallow: true, history: "replace" }));
	if (!view) {
		return <NoPeriod />;
	}
	const moved = view.steps.filter((s) => s.deals.length > 0 || s.kind === "opening" || s.kind === "closing");
	const chosen = moved.find((s) => s.kind === step) ?? null;
	const pick = (kind: string) => void setStep(kind === step ? null : kind);
	return (
		<>
			{view.broken.map((seal) => (
				<Alert key={seal.mark} variant="warning" className="mb-3 small-text">
					History was corrected since the mark “{seal.mark}” was kept: {seal.before} deals were open then, {seal.now} by what is known now.
					{seal.deals.length > 0 && (
						<>
							{" "}
							Written later:{" "}
							{seal.deals.slice(0, 8).map((deal, i) => (
								<span key={deal.id}>
									{i > 0 && ", "}
									<Link href={`/deals/${encodeURIComponent(deal.id)}`}>{deal.name}</Link>
								</span>
							))}
							{seal.deals.length > 8 && ` and ${seal.deals.length - 8} more`}.
						</>
					)}
				</Alert>
			))}
			<div className="changes-top">
				<section className="panel">
					<h2>{view.headline}</h2>
					<p className="second small-text mb-1">{view.causes}</p>
					<BridgeChart steps={moved} currency={view.currency} chosen={step} onPick={pick} />
				</section>
				<section className="panel" aria-label="Steps in figures">
					<h3>Steps</h3>
					<ul className="rows small-text step-list">
						{moved.map((s) => (
							<li key={s.kind}>
								<button type="button" className="plain-button" aria-pressed={s.kind === step} onClick={() => pick(s.kind)}>
									<span>
										{s.name}{" "}
										<span className="third">
											{s.deals.length} {s.deals.length === 1 ? "deal" : "deals"}
										</span>
									</span>
									<b>
										{s.kind === "opening" || s.kind === "closing"
											? money(s.amount, view.currency)
											: `${s.leaves ? "−" : "+"}${change(s.amount, view.currency).replace("+", "")}`}
									</b>
								</button>
							</li>
						))}
					</ul>
					<h3 className="mt-3">By rep, net change</h3>
					<ul className="rows small-text step-list">
						{view.byRep.map((one) => (
							<li key={one.name}>
								<button type="button" className="plain-button" aria-pressed={one.name === rep} onClick={() => void setRep(one.name === rep ? null : one.name)}>
									<span>{one.name}</span>
									<b className={one.net > 0 ? "gained" : "worse"}>{change(one.net, view.currency)}</b>
								</button>
							</li>
						))}
						{!view.byRep.length && <li className="second">Nobody’s total changed.</li>}
					</ul>
					<p className="tiny second mb-0 mt-2">
						All in {view.currency} at the rates of {frame.seen.words}.
					</p>
				</section>
			</div>
			<ChangedDeals
				steps={chosen ? [chosen] : moved.filter((s) => s.kind !== "opening" && s.kind !== "closing")}
				currency={view.currency}
				chosen={chosen}
				rep={rep}
				onAll={() => {
					void setStep(null);
					void setRep(null);
				}}
				frame={frame}
			/>
		</>
	);
}
