"use client";
import type { ReactNode } from "react";
import { byCount } from "@/core/words/grammar";
import { shortDate, shortMoney } from "@/ui/format";
import { Heads, num } from "@/ui/parts/Heads";
import { Scrolls } from "@/ui/parts/Scrolls";
import type { OutlookAnswer } from "../server/readOutlook";
import { Band } from "./Band";
import { OutlookDeals } from "./OutlookDeals";
import { periodsWords } from "./periodsWords";
import { percent } from "./ShareBar";
import "./patterns.css";

interface Props {
	readonly view: OutlookAnswer;
	readonly due: string;
	readonly whose: string;
	readonly seen: string;
	/** how it moved since the earlier day */
	readonly children?: ReactNode;
}

/** Where the period will end: the band, the chance of the target, the deals that decide; and always its own record. */
export function OutlookScreen({ view, due, whose, seen, children }: Props) {
	if (!view.available)
		return (
			<div className="panel empty">
				<h2>No outlook for {due}</h2>
				<p>{view.reason} The weighted figure of the period is on Period.</p>
			</div>
		);
	const { low, middle, high, chanceOfTarget, target, currency, record } = view;
	const inside = record.periods.filter((one) => one.inside).length;
	return (
		<>
			<h2>
				{whose === "My" ? "I end" : `${whose.replace(/’s$/, "")} ends`} {due} between {shortMoney(low, currency)} and {shortMoney(high, currency)}, most likely
				about {shortMoney(middle, currency)}
			</h2>
			<p className="second">
				{target === null
					? "There is no target to compare it with. "
					: `The chance of the target of ${shortMoney(target, currency)} is ${percent(chanceOfTarget)}. `}
				At this point of the last {periodsWords(record.periods)} the result was inside this band {byCount(inside, "once", `${inside} times`)}.
			</p>
			<Band view={view} />
			{children}
			<div className="patterns-two">
				<OutlookDeals view={view} seen={seen} />
				<div>
					<h2 className="mt-3">Track record</h2>
					<Scrolls of="Track record" className="panel p-0">
						<table className="table mb-0">
							<Heads of={["Period", num("Band"), num("Result"), "Inside"]} />
							<tbody>
								{record.periods.map(({ from, to, low: bottom, high: top, total, inside: held }) => (
									<tr key={from}>
										<th scope="row" className="fw-normal text-nowrap">
											{shortDate(from)}–{shortDate(to)} {to.slice(0, 4)}
										</th>
										<td className="num text-nowrap">
											{shortMoney(bottom, currency)}–{shortMoney(top, currency)}
										</td>
										<td className="num text-nowrap">{shortMoney(total, currency)}</td>
										<td className={held ? "" : "worse"}>{held ? "yes" : total < bottom ? "below" : "above"}</td>
									</tr>
								))}
							</tbody>
						</table>
					</Scrolls>
					<p className="small-text second mt-2 mb-1">
						Brier score {record.brier?.toFixed(3) ?? "–"}, of the stages’ own probabilities {record.baseline?.toFixed(3) ?? "–"}: the smaller, the closer to the
						result.
					</p>
					<Scrolls of="Expected and actual share" className="panel p-0">
						<table className="table mb-0">
							<Heads of={["Chance", num("Deals"), num("Expected"), num("Result")]} />
							<tbody>
								{record.calibration.map(({ from, to, n, chance, share }) => (
									<tr key={from}>
										<th scope="row" className="fw-normal">
											{percent(from)}–{percent(to)}
										</th>
										<td className="num">{n}</td>
										<td className="num">{n < 5 ? "–" : percent(chance)}</td>
										<td className="num">{n < 5 ? "–" : percent(share)}</td>
									</tr>
								))}
							</tbody>
						</table>
					</Scrolls>
				</div>
			</div>
		</>
	);
}
