"use client";
import type { ReactNode } from "react";
import { shareWords } from "@/core/statistics/shareWords";
import { shortDate, shortMoney } from "@/ui/format";
import { DataTable } from "@/ui/parts/table/DataTable";
import type { OutlookAnswer } from "../server/readOutlook";
import { Band } from "./Band";
import { bandWords, targetChance } from "./bandWords";
import { Elsewhere } from "./Elsewhere";
import { MadeOfMean } from "./MadeOfMean";
import { OutlookDeals } from "./OutlookDeals";
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
	const { low, middle, high, target, currency, record } = view;
	return (
		<>
			<h2>
				{whose === "My" ? "I end" : `${whose.replace(/’s$/, "")} ends`} {due} between {shortMoney(low, currency)} and {shortMoney(high, currency)}, most likely
				about {shortMoney(middle, currency)}
			</h2>
			<p className="second">
				{target === null
					? "There is no target to compare it with. "
					: view.won >= target
						? `The target of ${shortMoney(target, currency)} is reached. `
						: `The chance of the target of ${shortMoney(target, currency)} is ${targetChance(view)}. `}
				{bandWords(record)}
			</p>
			<Band view={view} />
			<MadeOfMean view={view} />
			{children}
			<div className="patterns-two">
				<div>
					<OutlookDeals view={view} seen={seen} />
					<Elsewhere view={view} />
				</div>
				<div>
					<h2 className="mt-3">Track record</h2>
					<TrackRecord periods={record.periods} currency={currency} />
					<p className="small-text second mt-2 mb-1">
						Brier score {record.brier?.toFixed(3) ?? "–"}, of the stages’ own probabilities {record.baseline?.toFixed(3) ?? "–"}: the smaller, the closer to the
						result.
					</p>
					<Calibration calibration={record.calibration} />
				</div>
			</div>
		</>
	);
}

type Available = Extract<OutlookAnswer, { available: true }>;

/** Past periods: where they were foretold to end, and where they did. */
function TrackRecord({ periods, currency }: Pick<Available["record"], "periods"> & { readonly currency: string }) {
	return (
		<DataTable
			of="Track record"
			rows={periods}
			rowKey={({ from }) => from}
			columns={[
				{
					key: "period",
					label: "Period",
					names: true,
					className: "fw-normal text-nowrap",
					cell: ({ from, to }) => `${shortDate(from)}–${shortDate(to)} ${to.slice(0, 4)}`,
				},
				{
					key: "band",
					label: "Band",
					num: true,
					className: "text-nowrap",
					cell: (one) => `${shortMoney(one.low, currency)}–${shortMoney(one.high, currency)}`,
				},
				{ key: "result", label: "Result", num: true, className: "text-nowrap", cell: ({ total }) => shortMoney(total, currency) },
				{
					key: "inside",
					label: "Inside",
					cell: (one) => <span className={one.inside ? "" : "worse"}>{one.inside ? "yes" : one.total < one.low ? "below" : "above"}</span>,
				},
			]}
		/>
	);
}

/** How often deals of a chance were won. */
function Calibration({ calibration }: Pick<Available["record"], "calibration">) {
	return (
		<DataTable
			of="Expected and actual share"
			rows={calibration}
			rowKey={({ from }) => String(from)}
			columns={[
				{ key: "chance", label: "Chance", names: true, className: "fw-normal", cell: ({ from, to }) => `${percent(from)}–${percent(to)}` },
				{ key: "deals", label: "Deals", num: true, cell: ({ n }) => n },
				{ key: "expected", label: "Expected", num: true, cell: ({ chance }) => percent(chance) },
				{ key: "result", label: "Result", num: true, cell: ({ share, n }) => shareWords({ k: Math.round((share ?? 0) * n), n, share }) },
			]}
		/>
	);
}
