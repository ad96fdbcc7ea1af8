"use client";
import Link from "next/link";
import { useState } from "react";
import { Button } from "react-bootstrap";
import type { ChangedStep } from "@/usecases/readChanges";
import { currencySign, money, nearDate, wholeAmount } from "../../format";
import type { FrameView } from "../frame/view";
import { sheetAddress } from "../sheet/SheetBody";

interface Props {
	readonly steps: readonly ChangedStep[];
	readonly currency: string;
	readonly chosen: ChangedStep | null;
	/** only deals that were or are this rep's */
	readonly rep: string | null;
	readonly onAll: () => void;
	readonly frame: FrameView["sentence"];
}

const SHOWN = 60;

/** The deals behind the steps, before and after. Only what differs is told twice. */
export function ChangedDeals({ steps, currency, chosen, rep, onAll, frame }: Props) {
	const [all, setAll] = useState(false);
	const lines = steps
		.flatMap((step) => step.deals.map((deal) => ({ step, deal })))
		.filter(({ deal }) => !rep || deal.owners.includes(rep))
		.sort((a, b) => b.deal.amount - a.deal.amount);
	const sum = lines.reduce((total, { deal }) => total + deal.amount, 0);
	const count = (n: number, one: string) => `${n} ${one}${n === 1 ? "" : "s"}`;
	const shown = all ? lines : lines.slice(0, SHOWN);
	const near = frame.seen.day;
	const pair = (before: string, after: string) =>
		before === after ? (
			after
		) : (
			<>
				{before} → {after}
			</>
		);
	return (
		<section className="panel mt-3 changed" aria-label="Deals behind the steps">
			<div className="d-flex justify-content-between align-items-baseline mb-1">
				<h3>
					{chosen
						? `${chosen.name}: ${count(lines.length, "deal")}, ${money(sum, currency)}`
						: `All that moved: ${count(lines.length, "step")}, the largest first`}
					{rep && ` · ${rep}`}
				</h3>
				{(chosen || rep) && (
					<Button size="sm" variant="link" onClick={onAll}>
						Show all that moved
					</Button>
				)}
			</div>
			{lines.length === 0 ? (
				<p className="second mb-0">Nothing moved between the two days.</p>
			) : (
				<div className="changed-scroll" tabIndex={0} role="region" aria-label="Deals, scrollable">
					<table className="table">
						<thead>
							<tr>
								<th>Movement</th>
								<th>Deal</th>
								<th>Rep</th>
								<th className="num">Step {currencySign(currency).trim()}</th>
								<th className="num">Amount {currencySign(currency).trim()}</th>
								<th>Close date</th>
								<th>Stage</th>
							</tr>
						</thead>
						<tbody>
							{shown.map(({ step, deal }) => (
								<tr key={step.kind + deal.id}>
									<td className="text-nowrap">{step.name}</td>
									<td>
										<Link href={sheetAddress({ id: deal.id, past: frame.seen.past, seen: frame.seen.day, against: frame.against.day })}>
											<b>{deal.name}</b>
										</Link>{" "}
										<span className="second">{deal.account}</span>
									</td>
									<td className="text-nowrap">{deal.owner}</td>
									<td className={`num ${step.kind === "won" ? "gained" : step.leaves ? "worse" : ""}`}>
										{step.leaves ? "−" : ""}
										{wholeAmount(deal.amount, currency)}
									</td>
									<td className="num">
										{deal.before === null
											? wholeAmount(deal.after ?? 0, currency)
											: pair(wholeAmount(deal.before, currency), deal.after === null ? "gone" : wholeAmount(deal.after, currency))}
									</td>
									<td className="text-nowrap">
										{deal.stageBefore === null ? nearDate(deal.closeAfter, near) : pair(nearDate(deal.closeBefore, near), nearDate(deal.closeAfter, near))}
									</td>
									<td>
										{deal.stageBefore === null ? deal.stageAfter : pair(deal.stageBefore, deal.stageAfter ?? "gone")}
										{deal.also.length > 0 && <span className="d-block tiny second">{deal.also.join("; ")}</span>}
									</td>
								</tr>
							))}
						</tbody>
					</table>
				</div>
			)}
			{lines.length > shown.length && (
				<Button size="sm" variant="link" onClick={() => setAll(true)}>
					Show all {lines.length}
				</Button>
			)}
		</section>
	);
}
