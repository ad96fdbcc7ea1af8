"use client";
import Link from "next/link";
import type { Differences, PeriodFigures } from "@/core/period/figures";
import { plural } from "@/core/words/grammar";
import { change, shortMoney } from "@/ui/format";
import { Amount } from "@/ui/parts/Amount";
import { type Beamed, PARTS, reachOfBeam } from "../table/beam";
import { type Days, useOpens } from "./opens";

/** The bar alone, on a scale that others share. */
export function Bar({ figures, scale, currency, small = false }: { figures: Beamed; scale: number; currency: string; small?: boolean }) {
	const width = (amount: number) => `${scale > 0 ? (100 * Math.max(0, amount)) / scale : 0}%`;
	const words = [
		...PARTS.map((part) => `${part.label.toLowerCase()} ${shortMoney(part.amountOf(figures).amount, currency)}`),
		figures.target === null ? "no target" : `target ${shortMoney(figures.target, currency)}`,
	].join(", ");
	return (
		<div className={`beam-bar ${small ? "beam-small" : ""}`} role="img" aria-label={words} title={words}>
			{PARTS.map((part) => (
				<span key={part.key} className={`beam-part beam-${part.key}`} style={{ width: width(part.amountOf(figures).amount) }} />
			))}
			{figures.target !== null && <span className="beam-target" style={{ left: width(figures.target) }} />}
		</div>
	);
}

interface Props {
	readonly figures: PeriodFigures;
	readonly changes: Differences<PeriodFigures>;
	readonly against: string;
	readonly currency: string;
	readonly days: Days;
	/** between which totals it ends in eight of ten cases; null where there is no outlook */
	readonly band?: Band | null;
}

export interface Band {
	readonly low: number;
	readonly middle: number;
	readonly high: number;
}

/** Won, commit, best case and pipeline on one scale with the target; what isn't in it stands beside it. Each opens its deals. */
export function Beam({ figures, changes, against, currency, days, band = null }: Props) {
	// Long: one drawing, its parts from back to front.
	const opens = useOpens(days);
	const scale = Math.max(reachOfBeam(figures), band?.high ?? 0) * 1.02;
	const at = figures.target === null || scale === 0 ? null : (100 * figures.target) / scale;
	const beside = [
		{ key: "leftOut", label: "Left out", sum: figures.categories.left_out },
		{ key: "leftBehind", label: days.seen < days.from ? "Due before it" : "Carried over", sum: figures.leftBehind },
		{ key: "undated", label: "Without a date", sum: figures.undated },
	].filter(({ sum }) => sum.count > 0);
	return (
		<div className="beam">
			<div className="beam-over small-text">
				{at !== null && (
					<b style={at > 70 ? { right: `${100 - at}%` } : { left: `${at}%` }} className={at > 70 ? "beam-label-left" : "beam-label"}>
						<Link href={opens.figure("target")}>target {shortMoney(figures.target ?? 0, currency)}</Link>
					</b>
				)}
			</div>
			{band && scale > 0 && <Bracket band={band} scale={scale} currency={currency} />}
			<Bar figures={figures} scale={scale} currency={currency} />
			<ul className="beam-parts">
				{PARTS.map((part) => {
					const { amount, count } = part.amountOf(figures);
					const changed = part.amountOf(changes as unknown as Beamed).amount;
					return (
						<li key={part.key}>
							<Link href={opens.figure(part.key)} title={`Open the deals in this figure: ${count}`}>
								<span className={`beam-mark beam-${part.key}`} aria-hidden="true" /> {part.label}{" "}
								<b className="num">
									<Amount minor={amount} currency={currency} />
								</b>
							</Link>
							<span className="second small-text d-block">{plural(count, "deal")}</span>
							{changed !== 0 && (
								<span className="second small-text d-block">
									<span className={changed > 0 ? "gained" : "worse"} title={change(changed, currency)}>
										{changed > 0 ? "+" : ""}
										{shortMoney(changed, currency)}
									</span>{" "}
									since {against}
								</span>
							)}
						</li>
					);
				})}
				{beside.length > 0 && (
					<li className="beam-beside">
						<span className="second small-text">Not in the beam</span>
						{beside.map(({ key, label, sum }) => (
							<span key={key} className="d-block small-text">
								<Link href={opens.figure(key)}>
									{label} <b className="num">{shortMoney(sum.amount, currency)}</b>
								</Link>{" "}
								<span className="second">{plural(sum.count, "deal")}</span>
							</span>
						))}
					</li>
				)}
			</ul>
		</div>
	);
}

/** Where it ends in eight of ten cases, over the beam, with the middle marked. */
function Bracket({ band: { low, middle, high }, scale, currency }: { band: Band; scale: number; currency: string }) {
	const at = (amount: number) => (100 * Math.max(0, amount)) / scale;
	const words = `ends between ${shortMoney(low, currency)} and ${shortMoney(high, currency)} in eight of ten cases, most likely ${shortMoney(middle, currency)}`;
	return (
		<div className="beam-bracket" role="img" aria-label={words} title={words}>
			<i style={{ left: `${at(low)}%`, width: `${at(high) - at(low)}%` }} />
			<b style={{ left: `${at(middle)}%` }} />
		</div>
	);
}
