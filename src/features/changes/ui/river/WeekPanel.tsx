"use client";
import Link from "next/link";
import { useState } from "react";
import { Button } from "react-bootstrap";
import type { WeekLine } from "@/core/river/lines";
import { change, fullAmount, money } from "@/ui/format";
import type { Stood } from "@/workers/riverModel";
import type { RiverView } from "../../server/readRiver";

interface Deals {
	readonly view: RiverView;
	/** the address of a deal's sheet, seen on the date */
	readonly sheet: (id: string) => string;
	/** draws a deal's thread while it is pointed at; null: none */
	readonly onPoint: (deal: number | null) => void;
}

const SHOWN = 4;

/** The week of the date in words, each line with its deals; and where the deals stood on the date itself. */
export function WeekPanel({
	title,
	lines,
	stood,
	day,
	view,
	...deals
}: Deals & { title: string; lines: readonly WeekLine[]; stood: readonly Stood[]; day: string }) {
	const { currency } = view;
	return (
		<>
			<h3>{title}</h3>
			{!lines.length && <p className="second small-text">Nothing changed in this week.</p>}
			<ul className="week-lines small-text">
				{lines.map((line) => (
					<li key={line.key}>
						<Folded
							label={`${line.deals.length} ${line.label}`}
							amount={line.sign && line.key !== "won" ? change(line.sign * line.amount, currency) : fullAmount(line.amount, currency)}
							tone={line.key === "won" || line.sign > 0 ? "gained" : line.sign < 0 ? "worse" : ""}
							list={line.deals}
							view={view}
							open
							{...deals}
						/>
					</li>
				))}
			</ul>
			<h3 className="mt-3">Where deals stood at the end of {day}</h3>
			<ul className="week-lines small-text">
				{stood.map(({ stage, count, amount, deals: largest }) => (
					<li key={stage}>
						<Folded label={`${count} in ${stage}`} amount={fullAmount(amount, currency)} tone="" list={largest} count={count} view={view} {...deals} />
					</li>
				))}
			</ul>
			<p className="tiny second mb-0">
				All in {currency} at the rates of the seen day:{" "}
				{money(
					stood.reduce((sum, one) => sum + one.amount, 0),
					currency,
				)}{" "}
				open.
			</p>
		</>
	);
}

interface FoldedProps extends Deals {
	readonly label: string;
	readonly amount: string;
	readonly tone: string;
	readonly list: readonly { readonly deal: number; readonly amount: number }[];
	/** how many there are, where the list names only the largest */
	readonly count?: number;
	readonly open?: boolean;
}

function Folded({ label, amount, tone, list, count = list.length, open = false, view, sheet, onPoint }: FoldedProps) {
	const [unfolded, setUnfolded] = useState(open);
	const [all, setAll] = useState(false);
	const shown = all ? list : list.slice(0, SHOWN);
	return (
		<>
			<button type="button" className="plain-button" aria-expanded={unfolded} disabled={!list.length} onClick={() => setUnfolded(!unfolded)}>
				<span>{label}</span>
				<b className={tone}>{amount}</b>
			</button>
			{unfolded && list.length > 0 && (
				<ul className="week-deals">
					{shown.map(({ deal, amount: part }) => {
						const one = view.deals[deal];
						return (
							<li
								key={deal}
								onPointerEnter={() => onPoint(deal)}
								onPointerLeave={() => onPoint(null)}
								onFocus={() => onPoint(deal)}
								onBlur={() => onPoint(null)}
							>
								<Link href={sheet(one?.id ?? "")}>{one?.name}</Link> <span className="third">{one?.owner}</span>
								<span className="num">{fullAmount(part, view.currency)}</span>
							</li>
						);
					})}
					{all && count > list.length && <li className="third">and {count - list.length} smaller ones</li>}
					{list.length > shown.length && (
						<li>
							<Button size="sm" variant="link" className="p-0" onClick={() => setAll(true)}>
								and {count - shown.length} more
							</Button>
						</li>
					)}
				</ul>
			)}
		</>
	);
}
