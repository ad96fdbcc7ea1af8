"use client";
import { parseAsString, useQueryState } from "nuqs";
import { Form } from "react-bootstrap";
import { money, shortDate, spaced } from "@/ui/format";
import { Scrolls } from "@/ui/parts/Scrolls";
import type { AccuracyView } from "../server/readPatterns";
import { Looking } from "./Looking";
import { percent, ShareBar } from "./ShareBar";
import "./patterns.css";

const CHOICES = ["commit", "best_case", "pipeline"];

/** Whose commits held: by count and by amount, through some quarters. */
export function AccuracyScreen({
	view,
	look,
	whose,
	currency,
}: {
	view: AccuracyView;
	look: { readonly quarters: number; readonly lead: number };
	whose: string;
	currency: string;
}) {
	const [, setCategory] = useQueryState("category", parseAsString.withOptions({ shallow: false, history: "replace" }));
	const words = spaced(view.category);
	return (
		<>
			<h2>
				{view.count.share === null
					? `Too few deals in ${words} to say how many came true`
					: `${percent(view.count.share)} of what was in ${words} was won in time, ${percent(view.amount.share)} by amount`}
			</h2>
			<Looking look={look} lead={`${whose === "My" ? "My" : whose} deals in ${words}, due`} />
			<Form.Select size="sm" className="w-auto mb-2" aria-label="Category" value={view.category} onChange={(event) => void setCategory(event.target.value)}>
				{CHOICES.map((one) => (
					<option key={one} value={one}>
						{spaced(one)}
					</option>
				))}
			</Form.Select>
			<Scrolls of="By rep" className="panel p-0">
				<table className="table mb-0">
					<thead>
						<tr>
							<th scope="col">Rep</th>
							<th scope="col">Won in time</th>
							<th scope="col" className="num">
								Won
							</th>
							<th scope="col" className="num">
								Of
							</th>
							<th scope="col" className="num">
								By amount
							</th>
						</tr>
					</thead>
					<tbody>
						{[...view.people]
							.sort((a, b) => (b.count.share ?? -1) - (a.count.share ?? -1) || b.count.n - a.count.n)
							.map(({ id, name, count, amount }) => (
								<tr key={id}>
									<th scope="row">{name}</th>
									<td>
										<ShareBar share={count} />
									</td>
									<td className="num text-nowrap">{money(amount.k, currency)}</td>
									<td className="num text-nowrap">{money(amount.n, currency)}</td>
									<td className="num">{percent(amount.share)}</td>
								</tr>
							))}
						<tr className="total">
							<th scope="row">Together</th>
							<td>
								<ShareBar share={view.count} />
							</td>
							<td className="num text-nowrap">{money(view.amount.k, currency)}</td>
							<td className="num text-nowrap">{money(view.amount.n, currency)}</td>
							<td className="num">{percent(view.amount.share)}</td>
						</tr>
					</tbody>
				</table>
			</Scrolls>
			<p className="tiny second mt-1">
				Looked at on {view.quarters.map(({ day }) => shortDate(day)).join(", ") || "no day"}; of fewer than five nothing is said.
			</p>
		</>
	);
}
