"use client";
import { parseAsString, useQueryState } from "nuqs";
import { useMemo, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { figuresOf } from "@/core/period/figures";
import { applyMoves, type Move } from "@/core/period/try";
import { plural } from "@/core/words/grammar";
import { shortMoney } from "@/ui/format";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { TryGround } from "../server/tryGround";
import type { TryLater } from "../server/tryLater";
import { reachOfBeam } from "../table/beam";
import { tryFinding } from "../table/tryWords";
import { Later } from "./Later";
import { MoveForm } from "./MoveForm";
import { moveWords } from "./moveWords";
import "@/ui/parts/parts.css";
import "./period.css";
import { Deals } from "./TryDeals";
import { TryLine } from "./TryLine";

/** What would be if: deals and groups of them moved on a copy, beside the period as it is and other tries. Nothing real changes. */
export function Tries({ ground, later }: { ground: TryGround; later: TryLater | null }) {
	// Long: one page, its parts in their order.
	const [moves, setMoves] = useState<readonly Move[]>([]);
	const [, setLater] = useQueryState("later", parseAsString.withOptions({ shallow: false, history: "push" }));
	const names = useMemo(() => new Map(ground.deals.map((deal) => [deal.id, deal.name])), [ground]);
	const nameOf = (id: string) => names.get(id) ?? "a deal that is no longer open";
	const result = useMemo(() => applyMoves(ground.real, ground.deals, moves), [ground, moves]);
	const rows = useMemo(
		() => [
			{ key: "real", name: "As is", figures: figuresOf(ground.real, ground.target), kept: null },
			...(moves.length ? [{ key: "draft", name: "This try", figures: figuresOf(result.counted, ground.target), kept: null }] : []),
			...ground.tries.map((kept) => ({
				key: kept.id,
				name: kept.name,
				figures: figuresOf(applyMoves(ground.real, ground.deals, kept.moves as Move[]).counted, ground.target),
				kept,
			})),
		],
		[ground, moves, result],
	);
	const real = figuresOf(ground.real, ground.target);
	const draft = rows.find(({ key }) => key === "draft");
	const scale = Math.max(...rows.map(({ figures }) => reachOfBeam(figures))) * 1.02;
	const add = (move: Move) => setMoves((now) => [...now, move]);
	return (
		<div className="period">
			<section className="panel" aria-label="Tries side by side">
				<h2 className="period-try-head">{draft ? tryFinding(draft.figures, real, ground.currency) : said(real, ground.currency)}</h2>
				<p className="second small-text">A try works on a copy: no real deal changes. Tries use today’s deals; a saved try shows the day it was made.</p>
				<ul className="period-tries">
					{rows.map((row) => (
						<li key={row.key}>
							<TryLine
								row={row}
								real={real}
								ground={ground}
								scale={scale}
								onTake={(kept) => setMoves(kept.moves as Move[])}
								onLater={(kept) => void setLater(kept.id)}
							/>
						</li>
					))}
				</ul>
			</section>
			{later && <Later view={later} onClose={() => void setLater(null)} />}
			<div className="period-main">
				<div className="period-left">
					<section className="panel" aria-label="Moves">
						<h3>Move deals</h3>
						<MoveForm ground={ground} onAdd={add} />
						{moves.length > 0 && (
							<ol className="rows small-text mt-2">
								{moves.map((move, i) => (
									<li key={i}>
										<span>
											{moveWords(move, nameOf)} <span className="second">({plural(result.met[i] ?? 0, "deal")})</span>
										</span>
										<Button size="sm" variant="link" onClick={() => setMoves((now) => now.filter((_, n) => n !== i))}>
											Undo
										</Button>
									</li>
								))}
							</ol>
						)}
					</section>
					<Deals ground={ground} result={result} moves={moves} onAdd={add} />
				</div>
				<Keep ground={ground} moves={moves} onKept={() => setMoves([])} onClear={() => setMoves([])} />
			</div>
		</div>
	);
}

function said(figures: ReturnType<typeof figuresOf>, currency: string): string {
	const money = (amount: number) => shortMoney(amount, currency);
	const { won, open, gap, needed, target } = figures;
	if (target === null || gap === null) return `${money(won.amount)} won, ${money(open.amount)} open; nobody here has a target`;
	if (gap === 0) return `${money(won.amount)} won: the target of ${money(target)} is reached, ${money(open.amount)} still open`;
	return `${money(won.amount)} of ${money(target)} won, ${money(gap)} missing, ${money(open.amount)} open${needed === null ? "" : `: ${Math.round(needed * 100)}% of it has to be won`}`;
}

/** Saves a try under a name, for oneself or shared with one's team. */
function Keep({ ground, moves, onKept, onClear }: { ground: TryGround; moves: readonly Move[]; onKept: () => void; onClear: () => void }) {
	const [name, setName] = useState("");
	const [shared, setShared] = useState(false);
	const run = useRun();
	const act = useAct();
	const save = async () => {
		const kept = await act(run("period.saveTry", { name, shared, whose: ground.whose, due: ground.due, moves: [...moves] }), "Try saved.", (done) =>
			run("period.removeTry", { id: done.id }),
		);
		if (!kept) return;
		setName("");
		onKept();
	};
	return (
		<aside className="panel period-side no-print" aria-label="Save try">
			<h3>Save try</h3>
			<Form
				onSubmit={(event) => {
					event.preventDefault();
					void save();
				}}
			>
				<Form.Control
					size="sm"
					value={name}
					maxLength={80}
					placeholder="The two largest slip"
					aria-label="Name of the try"
					onChange={(event) => setName(event.target.value)}
				/>
				<Form.Check
					className="mt-2 small-text"
					id="try-shared"
					label="Share it with my team"
					checked={shared}
					onChange={(event) => setShared(event.target.checked)}
				/>
				<div className="d-flex gap-2 mt-2">
					<Button size="sm" type="submit" disabled={!moves.length || !name.trim()}>
						Save try
					</Button>
					<Button size="sm" variant="link" disabled={!moves.length} onClick={onClear}>
						Clear moves
					</Button>
				</div>
			</Form>
			<p className="second small-text mt-2 mb-0">Later it is compared with what happened to each deal.</p>
		</aside>
	);
}
