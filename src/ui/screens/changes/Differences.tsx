"use client";
import Link from "next/link";
import { useState } from "react";
import type { DifferencesView, DifferenceView } from "@/usecases/changes/readDifferences";
import { change } from "../../format";
import type { FrameView } from "../frame/view";

const SHOWN = 60;

/** Deal by deal: only what differs, before and after, and whether that is better or worse. */
export function Differences({ view, frame }: { view: DifferencesView; frame: FrameView["sentence"] }) {
	const [all, setAll] = useState(false);
	const shown = all ? view.deals : view.deals.slice(0, SHOWN);
	return (
		<section>
			<h2 className="mb-2">
				{view.deals.length} {view.deals.length === 1 ? "deal differs" : "deals differ"} between {frame.against.words} and {frame.seen.words}
				{view.same > 0 && <span className="second fs-6"> · {view.same} don’t</span>}
			</h2>
			{!view.deals.length && <p className="panel second">Nothing moved between these two days.</p>}
			{shown.length > 0 && (
				<div className="panel p-0 changed-scroll">
					<table className="table differences">
						<thead>
							<tr>
								<th>Deal</th>
								<th className="num">On the period</th>
								<th>What differs</th>
								<th>Flags</th>
							</tr>
						</thead>
						<tbody>
							{shown.map((deal) => (
								<tr key={deal.id}>
									<td>
										<Link href={`/deals/${encodeURIComponent(deal.id)}`}>
											<b>{deal.name}</b>
										</Link>
										<span className="d-block tiny second">
											{deal.account} · {deal.owner}
										</span>
									</td>
									<td className={`num ${deal.effect > 0 ? "gained" : deal.effect < 0 ? "worse" : "third"}`}>
										{deal.effect ? change(deal.effect, view.currency) : "–"}
									</td>
									<td>
										{deal.differences.map((difference) => (
											<Difference key={difference.what} of={difference} />
										))}
									</td>
									<td className="small-text">
										{deal.lit.length > 0 && (
											<div>
												<b>lit</b> {deal.lit.join(", ")}
											</div>
										)}
										{deal.wentOut.length > 0 && <div className="second">out {deal.wentOut.join(", ")}</div>}
									</td>
								</tr>
							))}
						</tbody>
					</table>
				</div>
			)}
			{view.deals.length > shown.length && (
				<button type="button" className="plain-button small-text second mt-2" onClick={() => setAll(true)}>
					Show {view.deals.length - shown.length} more
				</button>
			)}
		</section>
	);
}

/** One field before and after: better points up, worse points down, and both say so. */
function Difference({ of: { what, before, after, better } }: { of: DifferenceView }) {
	return (
		<div className="small-text">
			<span
				className={better === true ? "gained" : better === false ? "worse" : "third"}
				title={better === true ? "better" : better === false ? "worse" : undefined}
			>
				<span aria-hidden="true">{better === true ? "▲" : better === false ? "▼" : "·"}</span>
				<span className="visually-hidden">{better === true ? "better: " : better === false ? "worse: " : ""}</span>
			</span>{" "}
			<span className="second">{what}</span> {before} → <b>{after}</b>
		</div>
	);
}
