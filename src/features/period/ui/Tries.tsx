"use client";
import { parseAsString, useQueryState } from "nuqs";
import { useMemo, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { figuresOf } from "@/core/period/figures";
import { applyMoves, type Move } from "@/core/period/try";
import { plural } from "@/core/words/grammar";
import { longDate, shortMoney, spaced } from "@/ui/format";
import { DataTable } from "@/ui/parts/table/DataTable";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { SavedTry, TryGround, TryLater } from "../server/tries";
import { tryFigures, tryFinding } from "../table/tryWords";
import { Bar, reachOfBeam } from "./Beam";
import { Later } from "./Later";
import { MoveForm } from "./MoveForm";
import { moveWords } from "./moveWords";
import "@/ui/parts/parts.css";
import "./period.css";

const SHOWN = 200;

/** What would be if: deals and groups of them moved on a copy, beside the period as it is and other tries. Nothing real changes. */
export function Tries({ ground, later }: { ground: TryGround; later: TryLater | null }) {
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

interface LineProps {
	readonly row: { readonly key: string; readonly name: string; readonly figures: ReturnType<typeof figuresOf>; readonly kept: SavedTry | null };
	readonly real: ReturnType<typeof figuresOf>;
	readonly ground: TryGround;
	readonly scale: number;
	readonly onTake: (kept: SavedTry) => void;
	readonly onLater: (kept: SavedTry) => void;
}

function TryLine({ row, real, ground, scale, onTake, onLater }: LineProps) {
	const run = useRun();
	const act = useAct();
	const { kept, figures } = row;
	return (
		<>
			<span className="period-try-name">
				<b>{row.name}</b>
				{kept && (
					<span className="second small-text d-block">
						made {longDate(kept.madeOn)}
						{kept.own ? "" : ` by ${kept.by}`}
						{kept.sharedWith ? `, shared with ${kept.sharedWith}` : ""}
					</span>
				)}
			</span>
			<Bar figures={figures} scale={scale} currency={ground.currency} small />
			<dl className="period-try-figures">
				{tryFigures(figures, real, ground.currency).map(({ words, value, was }) => (
					<div key={words}>
						<dt>{words}</dt>
						<dd>
							{was === null ? value : <b>{value}</b>}
							{was !== null && <span className="tiny second d-block">was {was}</span>}
						</dd>
					</div>
				))}
			</dl>
			<span className="no-print">
				{kept && (
					<>
						<Button size="sm" variant="link" onClick={() => onTake(kept)}>
							Continue from this try
						</Button>
						<Button size="sm" variant="link" onClick={() => onLater(kept)}>
							Results
						</Button>
						{kept.own && (
							<Button size="sm" variant="link" onClick={() => void act(run("period.removeTry", { id: kept.id }), "Try deleted.")}>
								Delete try
							</Button>
						)}
					</>
				)}
			</span>
		</>
	);
}

interface DealsProps {
	readonly ground: TryGround;
	readonly result: ReturnType<typeof applyMoves>;
	readonly moves: readonly Move[];
	readonly onAdd: (move: Move) => void;
}

/** The open deals, largest first, each to be moved by hand. */
function Deals({ ground, result, onAdd }: DealsProps) {
	const [all, setAll] = useState(false);
	const shown = all ? ground.deals : ground.deals.slice(0, 20);
	const move = (id: string, what: Move["what"]) => onAdd({ whom: { field: "deal", value: id }, what, percent: 100 });
	return (
		<section className="panel p-0" aria-label="Deals to move">
			<h3 className="groups-head mb-0">Deal by deal</h3>
			<DataTable
				of="Deals to move"
				className="groups-scroll"
				tableClass="mb-0 try-deals"
				rows={shown.slice(0, all ? SHOWN : 20)}
				rowKey={({ id }) => id}
				empty={<p className="second px-3">No deals are open in this period.</p>}
				columns={[
					{
						key: "deal",
						words: "Deal",
						by: ({ name }) => name,
						cell: ({ name, account }) => (
							<>
								<b>{name}</b> <span className="second">{account}</span>
							</>
						),
					},
					{ key: "rep", words: "Rep", by: ({ owner }) => owner, cell: ({ owner }) => owner },
					{ key: "category", words: "Category", by: ({ category }) => category, cell: ({ category }) => spaced(category) },
					{ key: "amount", words: "Amount", num: true, by: ({ amount }) => amount, cell: ({ amount }) => shortMoney(amount, ground.currency) },
					{
						key: "became",
						words: "In this try",
						cell: (deal) => becameWords(deal, result.deals[ground.deals.indexOf(deal)], ground.currency) || <span className="third">open</span>,
					},
					{
						key: "move",
						words: "Move",
						className: "no-print text-nowrap",
						cell: (deal) =>
							(["win", "drop", "push"] as const).map((what) => (
								<Button key={what} size="sm" variant="outline-primary" className="me-1" onClick={() => move(deal.id, what)} aria-label={`${what} ${deal.name}`}>
									{{ win: "Win", drop: "Drop", push: "Push" }[what]}
								</Button>
							)),
					},
				]}
			/>
			{!all && ground.deals.length > 20 && (
				<p className="p-2 mb-0">
					<Button size="sm" variant="link" onClick={() => setAll(true)}>
						Show all {ground.deals.length}
					</Button>
				</p>
			)}
		</section>
	);
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

/** What became of a deal in a try, each part with its amount; empty where it is open as it was. */
function becameWords({ amount }: TryGround["deals"][number], one: ReturnType<typeof applyMoves>["deals"][number] | undefined, currency: string): string {
	if (!one) return "";
	return [
		one.won ? `${shortMoney(one.won, currency)} won` : "",
		one.dropped ? `${shortMoney(one.dropped, currency)} dropped` : "",
		one.pushed ? `${shortMoney(one.pushed, currency)} pushed out` : "",
		one.priced ? `priced ${shortMoney(amount + one.priced, currency)}` : "",
	]
		.filter(Boolean)
		.join(", ");
}
