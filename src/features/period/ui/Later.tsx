"use client";
import Link from "next/link";
import { Button } from "react-bootstrap";
import { plural } from "@/core/words/grammar";
import { money, shortMoney } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import { DataTable } from "@/ui/parts/table/DataTable";
import type { TryLater } from "../server/tryLater";

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
			<DataTable
				of="Results"
				className="groups-scroll"
				tableClass="mb-0 try-deals"
				rows={view.deals}
				rowKey={({ id }) => id}
				empty={<p className="second px-3">None of the deals it moved is open or has changed since.</p>}
				columns={[
					{
						key: "deal",
						label: "Deal",
						by: ({ name }) => name,
						cell: ({ id, name, account }) => (
							<>
								<Link href={address(`/deals/${encodeURIComponent(id)}`)}>{name}</Link> <span className="second">{account}</span>
							</>
						),
					},
					{ key: "then", label: "Then", num: true, by: ({ before }) => before, cell: ({ before }) => money(before, view.currency) },
					{ key: "said", label: "By the try", by: ({ said }) => said, cell: ({ said }) => said },
					{ key: "now", label: "Now", by: ({ now }) => now, cell: ({ now }) => now },
					{ key: "amount", label: "Amount now", num: true, by: ({ nowAmount }) => nowAmount, cell: ({ nowAmount }) => money(nowAmount, view.currency) },
					{
						key: "agrees",
						label: "Came true",
						by: ({ agrees }) => (agrees === null ? null : agrees ? "yes" : "no"),
						cell: ({ agrees }) => (agrees === null ? <span className="second">too early to tell</span> : agrees ? "yes" : "no"),
					},
				]}
			/>
		</section>
	);
}
