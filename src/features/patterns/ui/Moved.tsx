"use client";
import Link from "next/link";
import { plural } from "@/core/words/grammar";
import { shortMoney } from "@/ui/format";
import { Scrolls } from "@/ui/parts/Scrolls";
import type { MovedView } from "../server/readOutlook";
import { MOVE_WORDS } from "./moveWords";

const signed = (amount: number, currency: string) => `${amount > 0 ? "+" : ""}${shortMoney(amount, currency)}`;

/** How the mean moved since the earlier day, step by step, each with the deals that make it. */
export function Moved({ moved, words, currency }: { moved: MovedView; words: string; currency: string }) {
	// Long: one table, its columns in their order.
	if (!moved.available)
		return (
			<p className="second small-text">
				How it moved since {words} isn’t known: {moved.reason}
			</p>
		);
	const most = Math.max(1, ...moved.steps.map(({ amount }) => Math.abs(amount)));
	return (
		<section aria-label={`How it moved since ${words}`}>
			<h2 className="mt-3">
				Since {words} the expected total moved from {shortMoney(moved.before, currency)} to {shortMoney(moved.after, currency)}
			</h2>
			<Scrolls of="How it moved" className="panel p-0">
				<table className="table mb-0 moved">
					<tbody>
						<tr>
							<th scope="row">Expected total {words}</th>
							<td />
							<td className="num">{shortMoney(moved.before, currency)}</td>
							<td />
						</tr>
						{moved.steps
							.filter(({ amount, count }) => amount !== 0 || count > 0)
							.map(({ key, amount, count, deals }) => (
								<tr key={key}>
									<th scope="row" className="fw-normal">
										{MOVE_WORDS[key]}
									</th>
									<td>
										<svg className="moved-bar" viewBox="-50 0 100 8" preserveAspectRatio="none" aria-hidden="true">
											<line x1="0" x2="0" y1="0" y2="8" />
											<rect
												x={amount < 0 ? (50 * amount) / most : 0}
												width={(50 * Math.abs(amount)) / most}
												y="1"
												height="6"
												className={amount < 0 ? "moved-down" : "moved-up"}
											/>
										</svg>
									</td>
									<td className={`num ${amount > 0 ? "gained" : amount < 0 ? "worse" : ""}`}>{signed(amount, currency)}</td>
									<td className="small-text">
										{count > 0 && (
											<details>
												<summary>{plural(count, "deal")}</summary>
												<ul className="rows tiny">
													{deals.map((deal) => (
														<li key={deal.id}>
															<span>
																<Link href={`/deals/${encodeURIComponent(deal.id)}`}>{deal.name}</Link> <span className="second">{deal.account}</span>
															</span>
															<span className="num text-nowrap">{signed(deal.amount, currency)}</span>
														</li>
													))}
													{count > deals.length && <li className="second">and {count - deals.length} smaller ones</li>}
												</ul>
											</details>
										)}
									</td>
								</tr>
							))}
						<tr className="total">
							<th scope="row">Expected total now</th>
							<td />
							<td className="num">{shortMoney(moved.after, currency)}</td>
							<td />
						</tr>
					</tbody>
				</table>
			</Scrolls>
		</section>
	);
}
