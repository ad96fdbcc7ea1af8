"use client";
import Link from "next/link";
import { byCount, plural } from "@/core/words/grammar";
import { wholeMoney } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import type { OutlookAnswer } from "../server/readOutlook";
import { Comparables } from "./Comparables";
import { percent } from "./ShareBar";
import "./patterns.css";

const SHOWN = 7;

/** The deals that decide the period, each with its chance; one press from the past deals that it rests on. */
export function Deciding({ view, seen }: { view: OutlookAnswer | null | undefined; seen: string }) {
	const address = useAddress();
	if (!view?.available) return null;
	const deciding = view.deals.filter(({ decides }) => decides);
	if (!deciding.length) return null;
	return (
		<section aria-label="Deals that decide">
			<h3 className="mb-0">
				{plural(view.deciding, "deal")} {byCount(view.deciding, "decides", "decide")} this period
			</h3>
			<p className="second small-text mb-1">two thirds of the uncertainty</p>
			<ul className="period-deals deciding">
				{deciding.slice(0, SHOWN).map(({ id, name, account, owner, amount, chance, steps, depth }) => (
					<li key={id} className="period-deal">
						<span className="period-deal-name">
							<Link href={address(`/deals/${encodeURIComponent(id)}`)}>{name}</Link>
							<span className="second small-text d-block">
								{owner} · {account}
							</span>
						</span>
						<span className="text-end">
							<span className="num d-block">{wholeMoney(amount, view.currency)}</span>
							<span className="small-text second">
								<Comparables
									dealId={id}
									name={name}
									step={steps[depth] ?? { n: 0, won: 0 }}
									whole={depth === steps.length - 1}
									currency={view.currency}
									seen={seen}
									label={`chance ${percent(chance)}`}
								/>
							</span>
						</span>
					</li>
				))}
			</ul>
			{view.deciding > SHOWN && (
				<p className="small-text">
					<Link href={address("/patterns")}>All {view.deciding}</Link>
				</p>
			)}
		</section>
	);
}
