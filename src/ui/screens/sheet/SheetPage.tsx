"use client";
import { useState } from "react";
import { Button } from "react-bootstrap";
import type { SheetView } from "@/usecases/readSheet";
import { longDate, money, nearDate, shortDate, spaced } from "../../format";
import { Evidence, StageBar } from "../../parts/Bars";
import { Lamp } from "../../parts/Lamp";
import { Level, levelWord } from "../../parts/Level";
import { AssignDialog, type Draft } from "../tasks/AssignDialog";
import { LastContact, OpenTasks, Since, WhyLit } from "./SheetBody";
import { Timeline } from "./Timeline";
import { TrailDrawing } from "./TrailDrawing";
import "../../parts/parts.css";
import "../deals/deals.css";
import "./sheet.css";

/** The whole sheet of a deal at its own address: every figure with what it was made of. */
export function SheetPage({ view }: { view: SheetView }) {
	const [draft, setDraft] = useState<Draft | null>(null);
	const assign = (title: string, flags: string[]) => setDraft({ deals: [view], title, flags, due: view.due });
	const { trail } = view;
	return (
		<>
			<div className="sheet-title">
				<div>
					<h2>
						<Lamp level={view.attention.level} size={28} /> {view.name}
					</h2>
					<p className="second mb-0">
						{view.account}
						{view.customer && ` · ${view.customer}`} · {view.owner}
						{!view.ownerActive && " (has left)"}
						{view.source && ` · source: ${view.source}`}
						{view.competitor && ` · against ${view.competitor}`}
					</p>
				</div>
				<div>
					<div className="head">{money(view.amount, view.baseCurrency)}</div>
					<div className="second text-end">
						{view.category && `${spaced(view.category)} · `}
						{view.stage} · closes {longDate(view.close)}
						{view.ownCurrency !== view.baseCurrency && view.ownAmount !== null && ` · ${money(view.ownAmount, view.ownCurrency)}`}
					</div>
					{view.outcomeReason && <div className="second text-end">reason: {view.outcomeReason}</div>}
				</div>
			</div>
			<div className="sheet-page">
				<div>
					<div className="panel">
						<WhyLit view={view} onAssign={assign} whole />
					</div>
					<div className="panel">
						<h3>
							Close date
							{trail.pushes > 0
								? `: ${trail.pushes} ${trail.pushes === 1 ? "push" : "pushes"}, ${trail.pushedDays} days in all${trail.crossings ? `, ${trail.crossings} quarter ${trail.crossings === 1 ? "end" : "ends"} crossed` : ""}`
								: ""}
						</h3>
						<TrailDrawing view={view} />
					</div>
					<div className="panel">
						<h3>Stages, in working days against usual</h3>
						<ul className="rows small-text">
							{view.visits.map((visit) => (
								<li
									key={visit.stage + visit.from}
									title={`${longDate(visit.from)} to ${longDate(visit.to)}; usual ${visit.usual}, three of four at most ${visit.limit} (${visit.measured ? `measured on ${visit.sample} visits` : "as configured"})`}
								>
									<span>
										{visit.stage}
										<span className="tiny third"> from {shortDate(visit.from)}</span>
									</span>
									<span className="d-flex gap-2 align-items-center">
										<StageBar days={visit.length} usual={visit.usual} limit={visit.limit} stage={visit.stage} width={72} />
										<span className="num">
											{visit.length} d <span className="third">/ {Math.round(visit.usual)}</span>
										</span>
									</span>
								</li>
							))}
						</ul>
						<p className="tiny second mb-0 mt-1">
							Open for {view.dealAge} working days, since {longDate(view.created)}.
						</p>
					</div>
				</div>
				<div>
					<div className="panel">
						<Timeline list={view.happenings} seen={view.seen} />
					</div>
				</div>
				<div>
					<div className="panel">
						<LastContact view={view} />
						<Since view={view} />
						<OpenTasks view={view} />
						{view.mayAssign && (
							<Button size="sm" className="mt-2 no-print" onClick={() => assign("", [])}>
								Give a task
							</Button>
						)}
					</div>
					<div className="panel">
						<Questions view={view} />
					</div>
					<div className="panel">
						<People view={view} />
					</div>
					{(view.lines.length > 0 || view.quotes.length > 0) && (
						<div className="panel">
							<LinesAndQuotes view={view} />
						</div>
					)}
				</div>
			</div>
			{draft && <AssignDialog draft={draft} today={view.seen} onClose={() => setDraft(null)} />}
		</>
	);
}

function Questions({ view }: { view: SheetView }) {
	const { strength, coverage, expected, questions } = view.qualification;
	return (
		<section>
			<h3>
				Evidence: strength {strength}, coverage {coverage}, expected {expected}
			</h3>
			<Evidence strength={strength} coverage={coverage} expected={expected} width={200} />
			<ul className="rows small-text mt-1">
				{questions.map((question) => (
					<li key={question.id} title={`Weight ${question.weight}${question.due ? ", due at this stage" : ", not due yet"}`}>
						<span>
							{question.prompt}
							{question.key && <b> key</b>}
							{question.note && (
								<span className="d-block tiny second">
									“{question.note}”, {shortDate(question.day)}
									{question.stale && " — old"}
								</span>
							)}
						</span>
						<span className={`text-nowrap ${question.gap ? "worse" : "second"}`}>
							<Level level={question.level} /> {levelWord(question.level)}
						</span>
					</li>
				))}
			</ul>
		</section>
	);
}

function People({ view }: { view: SheetView }) {
	return (
		<section>
			<h3>People</h3>
			<ul className="rows small-text">
				{view.people.map((person) => (
					<li key={person.name}>
						<span>
							<b>{person.name}</b>{" "}
							<span className="second">
								{person.title}
								{person.role && ` · ${spaced(person.role)}`}
							</span>
						</span>
						<span className="second text-nowrap">{person.last ? nearDate(person.last, view.seen) : "never"}</span>
					</li>
				))}
				{!view.people.some((person) => person.role === "decision_maker") && (
					<li className="worse">
						<span>
							<b>Nobody yet</b> who signs
						</span>
					</li>
				)}
			</ul>
		</section>
	);
}

function LinesAndQuotes({ view }: { view: SheetView }) {
	return (
		<section>
			<h3>Products and quotes</h3>
			<ul className="rows small-text">
				{view.lines.map((line, i) => (
					<li key={String(i)}>
						<span>
							{line.quantity} × {line.product}
						</span>
						<span className="second text-nowrap">
							{line.sold !== null && money(line.sold, line.currency ?? view.baseCurrency)}
							{line.list !== null && line.list !== line.sold && (
								<>
									{" "}
									<s>{money(line.list, line.currency ?? view.baseCurrency)}</s>
								</>
							)}
						</span>
					</li>
				))}
				{view.quotes.map((quote) => (
					<li key={quote.number}>
						<span>
							Quote {quote.number}, sent {shortDate(quote.sent)}
						</span>
						<span className={quote.valid && quote.valid < view.seen && !quote.answer ? "worse" : "second"}>
							{quote.answer ?? `valid to ${shortDate(quote.valid)}${quote.valid && quote.valid < view.seen ? " (past)" : ""}`}
						</span>
					</li>
				))}
			</ul>
		</section>
	);
}
