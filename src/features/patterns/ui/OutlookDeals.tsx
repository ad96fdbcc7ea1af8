"use client";
import { useState } from "react";
import { STEP_WORDS } from "@/core/outlook/kindWords";
import { byCount, plural } from "@/core/words/grammar";
import { money } from "@/ui/format";
import { TableExport } from "@/ui/parts/ExportMenu";
import { DataTable } from "@/ui/parts/table/DataTable";
import { dealColumn } from "@/ui/parts/table/dealColumn";
import type { OutlookView } from "../server/readOutlook";
import { Comparables } from "./Comparables";
import { percent } from "./ShareBar";

/** The deals that decide, and on request all others, each with its chance and what that rests on. */
export function OutlookDeals({ view: { deals, dueCount, deciding: decide, currency }, seen }: { view: OutlookView; seen: string }) {
	// Long: one table, its columns in their order.
	const [all, setAll] = useState(false);
	const deciding = deals.filter(({ decides }) => decides);
	const shown = all ? deals : deciding;
	const due = deals.filter((deal) => deal.due).length;
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
					{
						key: "amount",
						label: "Amount",
						num: true,
						className: "text-nowrap",
						by: ({ amount }) => amount,
						cell: ({ amount, due: isDue, dated }) => (
							<>
								{money(amount, currency)}
								{!isDue && <span className="second tiny d-block">{dated}</span>}
							</>
						),
					},
					{ key: "chance", label: "Chance", num: true, by: ({ chance }) => chance, cell: ({ chance }) => <b>{percent(chance)}</b> },
					{
						key: "comparable",
						label: "Won of comparable deals",
						className: "small-text",
						cell: ({ id, name, due: isDue, steps, depth }) => (
							<>
								<Comparables
									dealId={id}
									name={name}
									step={steps[depth] ?? { n: 0, won: 0 }}
									whole={depth === steps.length - 1}
									currency={currency}
									seen={seen}
								/>{" "}
								<details className="d-inline-block align-top">
									<summary>{depth === 0 ? "of any kind" : `alike in ${plural(depth, "way")}`}</summary>
									<ul className="rows tiny">
										{steps.map(({ n, won: k }, i) => (
											<li key={STEP_WORDS[isDue ? "due" : "elsewhere"][i]}>
												<span>{STEP_WORDS[isDue ? "due" : "elsewhere"][i]}</span>
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
				Together they hold two thirds of the uncertainty that single deals decide.{" "}
				{deals.length > deciding.length && (
					<button type="button" className="plain-button no-print" aria-expanded={all} onClick={() => setAll(!all)}>
						{all ? "Only deals that decide" : `Show ${deals.length} with their chances`}
					</button>
				)}
				{all &&
					` These are ${due < dueCount ? `the first ${due} of ${dueCount}` : `all ${dueCount}`} that are due, and those dated elsewhere with a chance of 5% or more; export the file for all.`}
			</p>
		</div>
	);
}
