"use client";
import Link from "next/link";
import { parseAsString, useQueryState } from "nuqs";
import { plural } from "@/core/words/grammar";
import { money, shortMoney } from "@/ui/format";
import type { FrameView } from "@/ui/frame/view";
import { Scrolls } from "@/ui/parts/Scrolls";
import type { FlowView } from "../server/readFlow";

/** The grid from place to place: where deals stood at the earlier day, and where they stand now. A cell opens its deals. */
export function Flow({ view, frame }: { view: FlowView; frame: FrameView["sentence"] }) {
	const [cell, setCell] = useQueryState("cell", parseAsString.withOptions({ shallow: true, history: "replace" }));
	const chosen = view.cells.find((c) => keyOf(c.from, c.to) === cell) ?? null;
	const moved = view.cells.filter((c) => c.from !== c.to).reduce((sum, c) => sum + c.count, 0);
	return (
		<section>
			<h2 className="mb-2">
				{plural(moved, "deal changed stage", "deals changed stage")} between {frame.against.label} and {frame.seen.label}
			</h2>
			<Scrolls of="Stage flow" className="panel p-0">
				<FlowTable view={view} cell={cell} onPick={(key) => void setCell(cell === key ? null : key)} />
			</Scrolls>
			{chosen && (
				<div className="panel mt-3" aria-live="polite">
					<h3>
						{chosen.from} → {chosen.to}: {plural(chosen.count, "deal")}, {money(chosen.amount, view.currency)}
					</h3>
					<ul className="rows small-text">
						{chosen.deals.map((deal) => (
							<li key={deal.id}>
								<span>
									<Link href={`/deals/${encodeURIComponent(deal.id)}`}>{deal.name}</Link> <span className="second">{deal.account}</span>
								</span>
								<span className="second">{deal.owner}</span>
							</li>
						))}
					</ul>
				</div>
			)}
		</section>
	);
}

const keyOf = (from: string, to: string) => `${from}>${to}`;

/** The grid alone: `cell` is the one that is pressed. */
export function FlowTable({ view, cell, onPick }: { view: FlowView; cell: string | null; onPick: (cell: string) => void }) {
	const most = Math.max(1, ...view.cells.map((c) => c.count));
	return (
		<table className="table flow">
			<caption className="visually-hidden">Deals by the stage they were in and the stage they are in, with their amounts</caption>
			<thead>
				<tr>
					<th scope="col">Was in ↓ is in →</th>
					{view.to.map((place) => (
						<th key={place} scope="col" className="num">
							{place}
						</th>
					))}
					<th scope="col" className="num">
						Moved on
					</th>
				</tr>
			</thead>
			<tbody>
				{view.from.map((from) => {
					const onward = view.onward.find((o) => o.stage === from);
					return (
						<tr key={from}>
							<th scope="row">{from}</th>
							{view.to.map((to) => {
								const own = view.cells.find((c) => c.from === from && c.to === to);
								return (
									<td key={to} className={`num ${from === to ? "flow-same" : ""}`}>
										{own ? (
											<button
												type="button"
												className="plain-button flow-cell"
												aria-pressed={cell === keyOf(from, to)}
												title={`${from} → ${to}: ${own.count}, ${money(own.amount, view.currency)}`}
												onClick={() => onPick(keyOf(from, to))}
											>
												<b>{own.count}</b>
												<span className="tiny second d-block">{shortMoney(own.amount, view.currency)}</span>
												<svg className="bar ms-auto" width={44} height={4} aria-hidden="true">
													<rect className="bar-ground" width={44} height={4} />
													<rect className="bar-series" width={(44 * own.count) / most} height={4} />
												</svg>
											</button>
										) : (
											<span className="third">·</span>
										)}
									</td>
								);
							})}
							<td className="num second">{onward ? `${onward.went} of ${onward.of}, ${Math.round((100 * onward.went) / onward.of)}%` : ""}</td>
						</tr>
					);
				})}
			</tbody>
		</table>
	);
}
