"use client";
import Link from "next/link";
import { Button } from "react-bootstrap";
import { plural } from "@/core/words/grammar";
import { money, shortMoney } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import { Heads, num } from "@/ui/parts/Heads";
import { Scrolls } from "@/ui/parts/Scrolls";
import type { TryLater } from "../server/tries";

/** A kept try beside what came of it, deal by deal. */
export function Later({ view, onClose }: { view: TryLater; onClose: () => void }) {
	const address = useAddress();
	const right = view.deals.filter(({ agrees }) => agrees === true).length;
	const wrong = view.deals.filter(({ agrees }) => agrees === false).length;
	const cash = (amount: number) => shortMoney(amount, view.currency);
	return (
		<section className="panel p-0" aria-label={`Results of ${view.try.name}`}>
			<div className="groups-head">
				<h3 className="mb-0">
					“{view.try.name}”, made {view.madeWords}: {cash(view.wonThen)} was won then, {cash(view.wonSaid)} by the try, {cash(view.wonNow)} now
				</h3>
				<Button size="sm" variant="link" onClick={onClose}>
					Close
				</Button>
			</div>
			<p className="second small-text px-3 mb-1">
				{right + wrong === 0 ? "It is too early to tell for any deal." : `${plural(right, "deal")} came true, ${wrong} otherwise.`}
			</p>
			<Scrolls of="Results" className="groups-scroll">
				<table className="table mb-0 try-deals">
					<Heads of={["Deal", num("Then"), "By the try", "Now", num("Now"), "Came true"]} />
					<tbody>
						{view.deals.map((deal) => (
							<tr key={deal.id}>
								<td>
									<Link href={address(`/deals/${encodeURIComponent(deal.id)}`)}>{deal.name}</Link> <span className="second">{deal.account}</span>
								</td>
								<td className="num">{money(deal.before, view.currency)}</td>
								<td>{deal.said}</td>
								<td>{deal.now}</td>
								<td className="num">{money(deal.nowAmount, view.currency)}</td>
								<td>{deal.agrees === null ? <span className="second">too early to tell</span> : deal.agrees ? "yes" : "no"}</td>
							</tr>
						))}
						{!view.deals.length && (
							<tr>
								<td colSpan={6} className="second">
									None of the deals it moved is open or has changed since.
								</td>
							</tr>
						)}
					</tbody>
				</table>
			</Scrolls>
		</section>
	);
}
