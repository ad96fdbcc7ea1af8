"use client";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { byCount, plural } from "@/core/words/grammar";
import { nearDate, shortMoney } from "@/ui/format";
import { Term } from "@/ui/parts/Term";
import { DataTable } from "@/ui/parts/table/DataTable";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { PlanView } from "../server/plans";
import type { RoundLine } from "../server/readRounds";
import { SORTING_WORDS, SORTINGS, type Sorting } from "../table/kinds";
import { PlansPart } from "./PlansPart";
import "./rounds.css";

interface Props {
	readonly list: { readonly rounds: readonly RoundLine[]; readonly mayHold: boolean; readonly today: string; readonly currency: string };
	readonly plans: readonly PlanView[];
	readonly prepared: readonly { readonly id: string; readonly name: string; readonly deals: number; readonly ready: number; readonly asks: number }[];
	readonly walk: { readonly running: string | null; readonly deals: number; readonly last: string | null } | null;
	readonly whose: { readonly key: string; readonly label: string };
	readonly due: { readonly key: string; readonly label: string };
	readonly past: boolean;
	readonly choices: readonly { readonly key: string; readonly label: string }[];
}

const peopleOf = (words: string) => (words === "My" ? "me" : words.replace(/’s$/, ""));

/** Rounds that run, are due and were held; the walk; who has prepared. */
export function RoundsScreen({ list, plans, prepared, walk, whose, due, past, choices }: Props) {
	// Long: one page, its parts in their order.
	const running = list.rounds.filter((round) => !round.ended);
	const over = list.rounds.filter((round) => round.ended);
	const hold = list.mayHold && !past;
	return (
		<div className="rounds-two">
			<div>
				{running.length > 0 && (
					<>
						<h2>{plural(running.length, "round")} running</h2>
						<RoundList of="Running rounds" rounds={running} list={list} />
					</>
				)}
				{hold && <StartPart whose={whose} due={due} running={running.length > 0} plans={plans.filter((plan) => plan.due && plan.mayHold)} />}
				<h2 className="mt-4">Past rounds</h2>
				{over.length ? (
					<RoundList of="Past rounds" rounds={over} list={list} />
				) : (
					<p className="panel second">
						No past rounds yet.{" "}
						{hold ? "Start one above: it goes deal by deal, and its minutes are kept here." : "When your manager has held one, its minutes appear here."}
					</p>
				)}
			</div>
			<div>
				{walk && hold && <WalkPart walk={walk} today={list.today} />}
				<PlansPart plans={plans} mayHold={hold} choices={choices} today={list.today} whoseKey={whose.key} />
				{prepared.length > 0 && (
					<>
						<h2 className="mt-4">Preparation</h2>
						<DataTable
							of="Preparation"
							rows={prepared}
							rowKey={({ id }) => id}
							columns={[
								{ key: "rep", label: "Rep", names: true, by: ({ name }) => name, cell: ({ name }) => name },
								{
									key: "ready",
									label: "Ready",
									num: true,
									by: ({ deals, ready }) => (deals ? ready / deals : 0),
									cell: ({ deals, ready }) => (
										<>
											{ready} of {deals}
											<span className="round-bar" aria-hidden="true">
												<i style={{ width: `${deals ? (100 * ready) / deals : 0}%` }} />
											</span>
										</>
									),
								},
								{ key: "asks", label: "Open questions", num: true, by: ({ asks }) => asks, cell: ({ asks }) => asks || <span className="third">·</span> },
							]}
						/>
						<p className="tiny second mt-1">
							Of {peopleOf(whose.label)} in {due.label}: open deals without open questions, or marked ready by their rep.
						</p>
					</>
				)}
			</div>
		</div>
	);
}

/** How far the calls moved the figure; a walk moves none. */
function movedWords({ ended, kind, moved }: RoundLine, currency: string): string {
	if (!ended) return "running";
	if (kind === "walk" || moved === null) return "";
	return moved ? `${moved > 0 ? "+" : "−"}${shortMoney(Math.abs(moved), currency)}` : "nothing";
}

function RoundList({ of, rounds, list }: { of: string; rounds: readonly RoundLine[]; list: Props["list"] }) {
	return (
		<DataTable
			of={of}
			rows={rounds}
			rowKey={({ id }) => id}
			columns={[
				{
					key: "round",
					label: "Round",
					names: true,
					by: ({ name }) => name,
					cell: ({ id, name, kind, whose, period }) => (
						<>
							<Link href={`/rounds/${id}`}>{name}</Link>
							<span className="d-block tiny second fw-normal">{kind === "walk" ? "a walk" : `${peopleOf(whose)}, ${period}`}</span>
						</>
					),
				},
				{ key: "on", label: "On", className: "text-nowrap", by: ({ on }) => on, cell: ({ on }) => nearDate(on, list.today) },
				{ key: "by", label: "Held by", by: ({ startedBy }) => startedBy, cell: ({ startedBy }) => startedBy },
				{
					key: "called",
					label: "Called",
					num: true,
					className: "text-nowrap",
					by: ({ called, deals }) => (deals ? called / deals : 0),
					cell: ({ called, deals }) => `${called} of ${deals}`,
				},
				{ key: "moved", label: "Moved by", num: true, className: "text-nowrap", by: ({ moved }) => moved, cell: (round) => movedWords(round, list.currency) },
			]}
		/>
	);
}

function StartPart({ whose, due, running, plans }: Pick<Props, "whose" | "due" | "plans"> & { running: boolean }) {
	const run = useRun();
	const act = useAct();
	const router = useRouter();
	const [sorted, setSorted] = useState<Sorting>("attention");
	const [calmToo, setCalmToo] = useState(false);
	const [waiting, setWaiting] = useState(false);
	const start = async (plan?: PlanView) => {
		setWaiting(true);
		const done = await act(
			run(
				"rounds.start",
				plan
					? { name: plan.name, whose: plan.whoseKey, sorted: plan.sorted as Sorting, calmToo: plan.calmToo, planId: plan.id }
					: { whose: whose.key, due: due.key, sorted, calmToo },
			),
			({ mark }) => `Round started. This moment is saved as the mark “${mark}”.`,
		);
		setWaiting(false);
		if (done) router.push(`/rounds/${done.result.id}`);
	};
	return (
		<section className={`panel round-start ${running ? "" : "mt-0"}`} aria-label="Start a round">
			{plans.map((plan) => (
				<p key={plan.id} className="round-start-line mb-3">
					<span>
						<b>{plan.name}</b> is planned for today.
					</span>
					<Button size="sm" disabled={waiting} onClick={() => void start(plan)}>
						{waiting ? "Starting …" : `Start “${plan.name}”`}
					</Button>
				</p>
			))}
			<p className="mb-2">
				{plans.length ? "Or another round" : "A round"} with <b>{peopleOf(whose.label)}</b> over what is due in <b>{due.label}</b>; choose others in the
				sentence above.
			</p>
			<div className="round-start-line">
				<Form.Select size="sm" aria-label="Order of the queue" value={sorted} onChange={(event) => setSorted(event.target.value as Sorting)}>
					{SORTINGS.filter((one) => one !== "hand").map((one) => (
						<option key={one} value={one}>
							{SORTING_WORDS[one]}
						</option>
					))}
				</Form.Select>
				<Form.Check id="calm-too" label="include calm deals" checked={calmToo} onChange={(event) => setCalmToo(event.target.checked)} />
				<Button size="sm" variant={plans.length ? "outline-primary" : "primary"} disabled={waiting} onClick={() => void start()}>
					{waiting ? "Starting …" : "Start the round"}
				</Button>
			</div>
		</section>
	);
}

function WalkPart({ walk, today }: { walk: NonNullable<Props["walk"]>; today: string }) {
	const run = useRun();
	const act = useAct();
	const router = useRouter();
	const start = async () => {
		const done = await act(run("rounds.startWalk", {}));
		if (done) router.push(`/rounds/${done.result.id}`);
	};
	return (
		<>
			<h2>
				My <Term of="walk">walk</Term>
			</h2>
			<div className="panel">
				<p className="mb-2">
					{walk.deals ? (
						<>
							<b>{plural(walk.deals, "deal")}</b> {byCount(walk.deals, "needs", "need")} you: at act, or newly lit
							{walk.last ? ` since ${nearDate(walk.last, today)}` : ""}.
						</>
					) : (
						"Nothing needs you: no deal is at act, and none was newly lit since your last walk."
					)}
				</p>
				<div className="d-flex gap-2">
					{walk.running && (
						<Link className="btn btn-sm btn-primary" href={`/rounds/${walk.running}`}>
							Continue with it
						</Link>
					)}
					{walk.deals > 0 && (
						<Button size="sm" variant={walk.running ? "outline-primary" : "primary"} onClick={() => void start()}>
							{walk.running ? "Start over" : "Start walk"}
						</Button>
					)}
				</div>
			</div>
		</>
	);
}
