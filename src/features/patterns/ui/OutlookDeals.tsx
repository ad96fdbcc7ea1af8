"use client";
import { useState } from "react";
import { byCount, plural } from "@/core/words/grammar";
import { money } from "@/ui/format";
import { TableExport } from "@/ui/parts/ExportMenu";
import { DataTable } from "@/ui/parts/table/DataTable";
import { dealColumn } from "@/ui/parts/table/dealColumn";
import type { OutlookView } from "../server/readOutlook";
import { Comparables } from "./Comparables";
import { percent } from "./ShareBar";

const DEPTHS = ["any deal", "in its stage", "and category", "and level", "and pushes"];

/** The deals that decide, and on request all others, each with its chance and what that rests on. */
export function OutlookDeals({ view: { deals, open, deciding: decide, currency, won, rest }, seen }: { view: OutlookView; seen: string }) {
	const [all, setAll] = useState(false);
	const deciding = deals.filter(({ decides }) => decides);
	const others = open - decide;
	const shown = all ? deals : deciding;
	return (
		<div>
			<div className="d-flex justify-content-between align-items-baseline gap-2 mt-3">
				<h2>
					{plural(decide, "deal")} {byCount(decide, "decides", "decide")}
				</h2>
				<TableExport table="patterns" />
			</div>
			<DataTable
				of="Deals that decide"
				rows={shown}
				rowKey={({ id }) => id}
				columns={[
					dealColumn((deal: (typeof shown)[number]) => deal),
					{ key: "owner", label: "Owner", by: ({ owner }) => owner, cell: ({ owner }) => owner },
					{ key: "amount", label: "Amount", num: true, className: "text-nowrap", by: ({ amount }) => amount, cell: ({ amount }) => money(amount, currency) },
					{ key: "chance", label: "Chance", num: true, by: ({ chance }) => chance, cell: ({ chance }) => <b>{percent(chance)}</b> },
					{
						key: "comparable",
						label: "Won of comparable deals",
						className: "small-text",
						cell: ({ id, name, steps, depth }) => (
							<>
								<Comparables dealId={id} name={name} step={steps[depth] ?? { n: 0, won: 0 }} depth={depth} currency={currency} seen={seen} />{" "}
								<details className="d-inline-block align-top">
									<summary>{depth === 0 ? "of any kind" : `alike in ${plural(depth, "way")}`}</summary>
									<ul className="rows tiny">
										{steps.map(({ n, won: k }, i) => (
											<li key={DEPTHS[i]}>
												<span>{DEPTHS[i]}</span>
												<span>
													{k} of {n}
												</span>
											</li>
										))}
									</ul>
								</details>
							</>
						),
					},
				]}
			/>
			<p className="tiny second mt-1">
				Together they hold two thirds of the uncertainty. {money(won, currency)} are won; {others} other open deals are included with their chances, plus{" "}
				{money(rest, currency)} for deals not yet in the pipeline, as in past periods.{" "}
				{others > 0 && (
					<button type="button" className="plain-button no-print" aria-expanded={all} onClick={() => setAll(!all)}>
						{all ? "Only deals that decide" : `Show all ${open} with their chances`}
					</button>
				)}
				{deals.length < open && all && ` The first ${deals.length}; export the file for all.`}
			</p>
		</div>
	);
}
