"use client";
import Link from "next/link";
import { parseAsStringLiteral, useQueryState } from "nuqs";
import { Fragment } from "react";
import { Form } from "react-bootstrap";
import type { Level } from "@/core/qualification/answer";
import { fullAmount, grouped, nearDate } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import { ROWS_AT_FIRST, useInBrowser } from "@/ui/inBrowser";
import { Evidence } from "@/ui/parts/Bars";
import { Level as LevelMark, levelWord } from "@/ui/parts/Level";
import { MoreRows } from "@/ui/parts/MoreRows";
import { unpacking } from "@/ui/unpacking";
import type { EvidenceDeal, EvidenceQuestion, EvidenceView } from "../server/readEvidence";
import { type GridAnswer, type Place, useGrid } from "./useGrid";
import "@/ui/parts/parts.css";
import "./evidence.css";
import { GridHead } from "./GridHead";

const ORDERS = ["hurts", "framework"] as const;
const WHICH = ["due", "all"] as const;

/** Deals by questions, drawn: what nobody ever asks stands at the left, the deal that is known worst at the top. */
export function EvidenceScreen({ view, seen }: { view: EvidenceView; seen: string }) {
	// Long: one page, its parts in their order.
	const [order, setOrder] = useQueryState("order", parseAsStringLiteral(ORDERS).withDefault("hurts"));
	const [which, setWhich] = useQueryState("which", parseAsStringLiteral(WHICH).withDefault("due"));
	const address = useAddress();
	const whole = useInBrowser();
	const columns = view.questions.map((question, index) => ({ question, index }));
	if (order === "framework") columns.sort((a, b) => (a.question.area < b.question.area ? -1 : a.question.area > b.question.area ? 1 : a.index - b.index));
	const at = ({ row, column }: Place): GridAnswer | null => {
		const deal = view.deals[row];
		const of = columns[column];
		const cell = of && deal?.cells[of.index];
		return deal && cell ? { dealId: deal.id, deal: deal.name, questionId: of.question.id, prompt: of.question.prompt, level: cell.level } : null;
	};
	const grid = useGrid(at, (id) => address(`/deals/${encodeURIComponent(id)}`));
	if (!view.questions.length) return <Empty title="No questions yet" words="Ops sets up the questions for qualifying a deal in Setup, under Questions." />;
	if (!view.deals.length) return <Empty title="No open deals here" words="Choose another period or team in the sentence above." />;
	const worst = view.questions[0] as EvidenceQuestion;
	return (
		<>
			<div className="evidence-top">
				<h2>{headline(worst)}</h2>
				<Switches order={order} setOrder={setOrder} which={which} setWhich={setWhich} />
			</div>
			<div className="evidence-scroll">
				<table className="evidence-grid" onKeyDown={grid.pressed}>
					<caption className="visually-hidden">
						{view.count} open deals by {view.questions.length} questions, with the level of each answer
					</caption>
					<GridHead count={view.count} questions={columns.map((column) => column.question)} />
					<tbody>
						{(whole ? view.deals : view.deals.slice(0, ROWS_AT_FIRST)).map((deal, row) => (
							<tr key={deal.id}>
								<DealHead deal={deal} currency={view.currency} />
								{columns.map(({ question, index }, column) => {
									const answer = at({ row, column });
									return (
										<GridCell
											key={question.id}
											question={question}
											cell={deal.cells[index]}
											level={answer ? grid.levelOf(answer) : "unknown"}
											place={{ row, column }}
											inOrder={grid.here.row === row && grid.here.column === column}
											onFocus={grid.setHere}
											seen={seen}
											all={which === "all"}
										/>
									);
								})}
							</tr>
						))}
					</tbody>
				</table>
			</div>
			<MoreRows shown={view.deals.length} count={view.count} order="Deals furthest below what their stage expects" />
			{grid.may && (
				<p className="tiny second mt-2 mb-0 no-print">
					In the grid, arrows move between answers; 0 unknown, 1 assumed, 2 heard, 4 against us set the answer; Enter opens the deal, where “shown” is answered
					with its source.
				</p>
			)}
			<Legend />
		</>
	);
}

/** The same, of what the page packed. */
export const EvidencePacked = unpacking(EvidenceScreen);

function Empty({ title, words }: { title: string; words: string }) {
	return (
		<div className="panel empty">
			<h2>{title}</h2>
			<p>{words}</p>
		</div>
	);
}

interface SwitchesProps {
	readonly order: (typeof ORDERS)[number];
	readonly setOrder: (order: (typeof ORDERS)[number]) => unknown;
	readonly which: (typeof WHICH)[number];
	readonly setWhich: (which: (typeof WHICH)[number]) => unknown;
}

function Switches({ order, setOrder, which, setWhich }: SwitchesProps) {
	return (
		<div className="d-flex gap-3 small-text no-print">
			<Form.Check
				id="order-hurts"
				type="switch"
				label="Most pressing first"
				checked={order === "hurts"}
				onChange={(event) => void setOrder(event.target.checked ? "hurts" : "framework")}
			/>
			<Form.Check
				id="which-due"
				type="switch"
				label="Only questions that are due"
				checked={which === "due"}
				onChange={(event) => void setWhich(event.target.checked ? "due" : "all")}
			/>
		</div>
	);
}

interface CellProps {
	readonly question: EvidenceQuestion;
	readonly cell: EvidenceDeal["cells"][number] | undefined;
	/** as it was said, perhaps just now */
	readonly level: Level;
	readonly place: Place;
	/** the one cell that Tab comes to; arrows go on from there */
	readonly inOrder: boolean;
	readonly onFocus: (place: Place) => void;
	readonly seen: string;
	/** what isn't due yet is shown too */
	readonly all: boolean;
}

function GridCell({ question, cell, level, place, inOrder, onFocus, seen, all }: CellProps) {
	if (!cell) return <td />;
	const words = `${levelWord(level)}${cell.day && level !== "unknown" ? `, ${nearDate(cell.day, seen)}` : ""}${cell.gap ? ", a gap" : ""}${cell.stale ? ", old" : ""}${cell.due ? "" : ", not due yet"}`;
	return (
		<td
			className={`${cell.gap ? "cell-gap" : ""} ${cell.stale ? "cell-stale" : ""}`}
			title={`${question.prompt} ${words}`}
			data-place={`${place.row} ${place.column}`}
			tabIndex={inOrder ? 0 : -1}
			onFocus={() => onFocus(place)}
		>
			{all || cell.due || level !== "unknown" ? (
				<>
					<LevelMark level={level} />
					<span className="visually-hidden">{words}</span>
				</>
			) : (
				<span className="visually-hidden">not due yet</span>
			)}
		</td>
	);
}

function Legend() {
	return (
		<p className="tiny second mt-2 mb-0">
			{(["assumed", "heard", "shown", "against"] as const).map((level) => (
				<Fragment key={level}>
					<LevelMark level={level} /> {levelWord(level)} {"\u2003"}
				</Fragment>
			))}
			<span className="cell-gap legend">a gap: due, but not yet heard</span> {"\u2003"}
			<span className="cell-stale legend">old</span>
		</p>
	);
}

/** The finding: which question nobody asks. */
function headline(worst: EvidenceQuestion): string {
	if (!worst.gaps) return "Every question that is due has been heard from the buyer";
	if (!worst.asked) return `Never asked: “${worst.prompt}”`;
	return `Rarely asked: “${worst.prompt}”: a gap on ${grouped(worst.gaps)} of the ${grouped(worst.due)} deals where it is due`;
}

function DealHead({ deal, currency }: { deal: EvidenceDeal; currency: string }) {
	const address = useAddress();
	return (
		<>
			<th scope="row" className="grid-deal">
				<Link href={address(`/deals/${encodeURIComponent(deal.id)}`)}>{deal.name}</Link>
				<span className="tiny second">
					{deal.account} · {deal.owner} · {fullAmount(deal.amount, currency)} · {deal.stage}
				</span>
			</th>
			<td className="grid-sum">
				<Evidence strength={deal.strength} coverage={deal.coverage} expected={deal.expected} width={60} />
				<span className="tiny second">
					{deal.strength} / {deal.expected}
				</span>
			</td>
		</>
	);
}
