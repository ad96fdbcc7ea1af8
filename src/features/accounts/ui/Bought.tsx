"use client";
import { money, nearDate } from "@/ui/format";
import type { AccountPage } from "../server/accountPageView";

const YEARS_SHOWN = 6;

/** What was bought by fiscal year, each year’s orders behind it, and what accounts like it buy and it never did. */
export function Bought({ view }: { view: AccountPage }) {
	const { years, never, bought, currency } = view;
	const most = Math.max(1, ...years.map(({ amount }) => amount));
	return (
		<section className="panel" aria-label="Bought">
			<h3>Bought</h3>
			{years.slice(0, YEARS_SHOWN).map(({ year, amount, products, orders }) => (
				<details key={year} className="account-year small-text">
					<summary>
						<span>{year}</span>
						<span className="account-bar" aria-hidden="true">
							<i style={{ width: `${(100 * Math.max(0, amount)) / most}%` }} />
						</span>
						<span className="num">{money(amount, currency)}</span>
					</summary>
					<p className="tiny second mb-1">
						{products.map(({ product, amount: part }) => `${product || "no product named"} ${money(part, currency)}`).join(", ")}
					</p>
					<ul className="rows">
						{orders.map((order) => (
							<li key={`${order.day} ${order.product} ${order.amount}`}>
								<span>
									{nearDate(order.day, view.seen)} <span className="second">{order.product || "no product named"}</span>
								</span>
								<span className="num">{money(order.amount, currency)}</span>
							</li>
						))}
					</ul>
				</details>
			))}
			{!years.length && <p className="second small-text mb-1">No purchases yet.</p>}
			{bought.trend !== null && (
				<p className="small-text second mb-1">
					{money(bought.last365, currency)} in the last 365 days, {money(bought.before365, currency)} in the 365 before: {Math.round(100 * bought.trend)}%
				</p>
			)}
			{never.length > 0 && (
				<p className="small-text mb-0">Never: {never.map(({ family, by, of }) => `${family} (bought by ${by} of ${of} like them)`).join(", ")}</p>
			)}
		</section>
	);
}
