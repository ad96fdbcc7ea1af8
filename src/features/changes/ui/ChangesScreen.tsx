"use client";
import Link from "next/link";
import { parseAsString, useQueryStates } from "nuqs";
import { useState, useTransition } from "react";
import { Alert, Form } from "react-bootstrap";
import { byCount, plural } from "@/core/words/grammar";
import { change, money } from "@/ui/format";
import type { FrameView } from "@/ui/frame/view";
import { unpacking } from "@/ui/unpacking";
import type { ChangesView } from "../server/changesView";
import { BridgeChart } from "./BridgeChart";
import { ChangedDeals } from "./ChangedDeals";
import { PartsOfBridge } from "./PartsOfBridge";
import "@/ui/parts/parts.css";
import "./changes.css";

const PARTS_SHOWN = 8;

/** Deals without a close date have no period to be compared in. */
export function NoPeriod() {
	return (
		<div className="empty">
			<h2>Choose a period for the bridge</h2>
			<p>Deals without a close date belong to no period. Choose one in the sentence above.</p>
		</div>
	);
}

/** What moved between two days: the finding, the bridge, and the deals behind each step. */
export function ChangesScreen({ view, notes, frame }: { view: ChangesView | null; notes: Readonly<Record<string, string>>; frame: FrameView["sentence"] }) {
	const [waiting, start] = useTransition();
	const [{ part, step }, look] = useQueryStates(
		{ by: parseAsString, part: parseAsString, step: parseAsString, all: parseAsString },
		{ shallow: false, history: "replace", startTransition: start },
	);
	if (!view) {
		return <NoPeriod />;
	}
	const moved = view.steps.filter((s) => s.count > 0 || s.kind === "opening" || s.kind === "closing");
	const chosen = moved.find((s) => s.kind === step) ?? null;
	const pick = (kind: string) => void look({ step: kind === step ? null : kind, all: null });
	return (
		<>
			<BrokenSeals view={view} />
			<div className="changes-top">
				<section className="panel">
					<h2>{view.headline}</h2>
					<p className="second small-text mb-1">{view.causes}</p>
					<LostOutside view={view} />
					<BridgeChart steps={moved} currency={view.currency} chosen={step} onPick={pick} />
				</section>
				<StepsSide
					view={view}
					moved={moved}
					part={part}
					step={step}
					seen={frame.seen.label}
					onStep={pick}
					onPart={(one) => void look({ part: one === part ? null : one, all: null })}
					onBy={(by) => void look({ by: by === "rep" ? null : by, part: null, all: null })}
				/>
			</div>
			<div className={waiting ? "waiting" : ""} aria-busy={waiting}>
				<ChangedDeals
					steps={chosen ? [chosen] : moved.filter((s) => s.kind !== "opening" && s.kind !== "closing")}
					currency={view.currency}
					chosen={chosen}
					part={part}
					notes={notes}
					onClear={() => void look({ step: null, part: null, all: null })}
					onAll={() => void look({ all: "1" })}
					frame={frame}
				/>
				<PartsOfBridge
					view={view}
					moved={moved}
					chosen={{ part, step }}
					onPick={(one, kind) => void look({ part: one === part && kind === step ? null : one, step: one === part && kind === step ? null : kind, all: null })}
				/>
			</div>
		</>
	);
}

/** The same, of what the page packed. */
export const ChangesPacked = unpacking(ChangesScreen);

const NAMED = 3;
/** What was lost without ever having been due in the period: in no step, but said. */
function LostOutside({ view }: { view: ChangesView }) {
	const { deals, count, amount } = view.lostOutside;
	if (!count) return null;
	return (
		<p className="second small-text mb-1">
			Beside the bridge: {plural(count, "deal")} that {byCount(count, "was", "were")} not due in the period {byCount(count, "was", "were")} lost,{" "}
			{money(amount, view.currency)} (
			{deals.slice(0, NAMED).map((deal, i) => (
				<span key={deal.id}>
					{i > 0 && "; "}
					<Link href={`/deals/${encodeURIComponent(deal.id)}`}>{deal.name}</Link>
				</span>
			))}
			{count > NAMED && (
				<>
					; <LostMore view={view} />
				</>
			)}
			). With the bridge’s own step, {money(amount + (view.steps.find(({ kind }) => kind === "lost")?.amount ?? 0), view.currency)} was lost between the two
			days.
		</p>
	);
}

/** The others, spelt out where they are asked for. */
function LostMore({ view }: { view: ChangesView }) {
	const [open, setOpen] = useState(false);
	const more = view.lostOutside.deals.slice(NAMED);
	if (!open)
		return (
			<button type="button" className="plain-button small-text" onClick={() => setOpen(true)}>
				{more.length} more
			</button>
		);
	return more.map((deal, i) => (
		<span key={deal.id}>
			{i > 0 && "; "}
			<Link href={`/deals/${encodeURIComponent(deal.id)}`}>{deal.name}</Link> {money(deal.amount, view.currency)}
		</span>
	));
}

/** Marks whose history was corrected since they were kept. */
function BrokenSeals({ view }: { view: ChangesView }) {
	return (
		<>
			{view.broken.map((seal) => (
				<Alert key={seal.mark} variant="warning" className="mb-3 small-text">
					History was corrected after the mark “{seal.mark}” was saved
					{seal.open ? `: ${seal.open.before} deals were open then, ${seal.open.now} by what is known now.` : "."}
					{seal.deals.length > 0 && (
						<>
							{" "}
							Added later:{" "}
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
		</>
	);
}

interface SideProps {
	readonly view: ChangesView;
	readonly moved: ChangesView["steps"];
	readonly part: string | null;
	readonly step: string | null;
	/** the seen day in words */
	readonly seen: string;
	readonly onStep: (kind: string) => void;
	readonly onPart: (part: string) => void;
	readonly onBy: (field: string) => void;
}

function StepsSide({ view, moved, part, step, seen, onStep, onPart, onBy }: SideProps) {
	const changedParts = view.parts.filter((one) => one.net !== 0);
	const byWords = view.fields.find((field) => field.key === view.by)?.label ?? view.by;
	return (
		<section className="panel" aria-label="Steps as a table">
			<h3>Steps</h3>
			<ul className="rows small-text step-list">
				{moved.map((s) => (
					<li key={s.kind}>
						<button type="button" className="plain-button" aria-pressed={s.kind === step} onClick={() => onStep(s.kind)}>
							<span>
								{s.name} <span className="third">{plural(s.count, "deal")}</span>
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
			<div className="d-flex align-items-baseline gap-2 mt-3">
				<h3 className="mb-0 text-nowrap">Net change</h3>
				<Form.Select size="sm" className="w-auto no-print" aria-label="Net change by" value={view.by} onChange={(event) => onBy(event.target.value)}>
					{view.fields.map((field) => (
						<option key={field.key} value={field.key}>
							by {field.label}
						</option>
					))}
				</Form.Select>
			</div>
			<ul className="rows small-text step-list">
				{changedParts.slice(0, PARTS_SHOWN).map((one) => (
					<li key={one.part}>
						<button type="button" className="plain-button" aria-pressed={one.part === part} onClick={() => onPart(one.part)}>
							<span>{one.part}</span>
							<b className={one.net > 0 ? "gained" : "worse"}>{change(one.net, view.currency)}</b>
						</button>
					</li>
				))}
				{!changedParts.length && <li className="second">The total of no {byWords} changed.</li>}
				{changedParts.length > PARTS_SHOWN && <li className="third">and {changedParts.length - PARTS_SHOWN} more in the table</li>}
			</ul>
			<p className="tiny second mb-0 mt-2">
				All in {view.currency} at the rates of {seen}.
			</p>
		</section>
	);
}
