import Link from "next/link";
import { money, nearDate } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import type { SheetAccount } from "../server/account";
import type { SheetView } from "../server/sheetView";

/** The name of a deal’s account, which opens its story. */
export function AccountName({ view: { account, accountInfo } }: { view: Pick<SheetView, "account" | "accountInfo"> }) {
	const address = useAddress();
	if (!accountInfo) return <>{account}</>;
	return <Link href={address(`/accounts/${encodeURIComponent(accountInfo.id)}`)}>{account}</Link>;
}

/** The account behind the deal: what it bought and when, its other deals, and when it was last spoken to. */
export function Account({ account, seen, currency }: { account: SheetAccount; seen: string; currency: string }) {
	const address = useAddress();
	const years = [...new Set(account.orders.map((order) => order.year))];
	return (
		<section>
			<h3>
				<Link href={address(`/accounts/${encodeURIComponent(account.id)}`)}>{account.name}</Link>
			</h3>
			<p className="small-text second mb-1">
				{[account.kind, account.industry, account.territory].filter(Boolean).join(" · ")}
				{account.lastTouch ? `; last spoken to ${nearDate(account.lastTouch, seen)}` : "; never spoken to"}
			</p>
			{years.map((year) => (
				<div key={year} className="small-text">
					<div className="d-flex justify-content-between">
						<b>{year}</b>
						<b>
							{money(
								account.orders.filter((order) => order.year === year).reduce((sum, order) => sum + order.amount, 0),
								currency,
							)}
						</b>
					</div>
					<ul className="rows">
						{account.orders
							.filter((order) => order.year === year)
							.map((order) => (
								<li key={order.product}>
									<span>
										{order.count > 1 && `${order.count} × `}
										{order.product}
									</span>
									<span className="second">{money(order.amount, currency)}</span>
								</li>
							))}
					</ul>
				</div>
			))}
			{!years.length && <p className="small-text second mb-1">No purchases yet.</p>}
			{account.others.length > 0 && (
				<>
					<h4 className="area">Other deals</h4>
					<ul className="rows small-text">
						{account.others.map((deal) => (
							<li key={deal.id}>
								<Link href={`/deals/${encodeURIComponent(deal.id)}`}>{deal.name}</Link>
								<span className="second text-nowrap">
									{deal.status === "open" ? deal.stage : `${deal.status} ${nearDate(deal.closed, seen)}`} · {money(deal.amount, currency)}
								</span>
							</li>
						))}
					</ul>
				</>
			)}
		</section>
	);
}
