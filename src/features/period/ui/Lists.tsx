"use client";
import Link from "next/link";
import type { ReactNode } from "react";
import { byCount, plural } from "@/core/words/grammar";
import { GiveButton } from "@/features/tasks/ui/GiveButton";
import { nearDate, shortMoney } from "@/ui/format";
import type { DealLine, DealList } from "../server/lists";
import type { PeriodView } from "../server/readPeriod";
import { DealLineItem } from "./DealLineItem";
import { type Days, useOpens } from "./opens";

function Fold({ words, sum, children }: { words: ReactNode; sum: string; children: ReactNode }) {
	return (
		<details className="period-fold">
			<summary>
				<span>{words}</span> <span className="num">{sum}</span>
			</summary>
			{children}
		</details>
	);
}

/** The biggest open deals, what is due, and what lit up: each can be opened. */
export function Lists({ view, days, deciding, redate }: { view: PeriodView; days: Days; deciding: ReactNode; redate: ReactNode }) {
	// Long: one page, its parts in their order.
	const opens = useOpens(days);
	const lines = (deals: readonly DealLine[], dated = false) => (
		<ul className="period-deals">
			{deals.map((deal) => (
				<DealLineItem
					key={deal.id}
					deal={deal}
					href={opens.deal(deal.id)}
					currency={view.currency}
					said={[deal.owner, dated ? (deal.close ? nearDate(deal.close, days.seen) : "no date") : deal.category, deal.note ?? deal.flags[0]?.toLowerCase()]}
				/>
			))}
		</ul>
	);
	const listed = ({ count, deals }: DealList, none: string, all: string, dated = false) =>
		deals.length ? (
			<>
				{lines(deals, dated)}
				<GiveButton dealIds={deals.map(({ id }) => id)} variant="link">
					Give {byCount(deals.length, "a task", `these ${deals.length} tasks`)}
				</GiveButton>
				{count > deals.length && (
					<p className="small-text">
						<Link href={all}>All {count}</Link>
					</p>
				)}
			</>
		) : (
			<p className="second small-text">{none}</p>
		);
	const changed = opens.address("/changes", { show: "deals" });
	const idle = view.biggest.filter(({ note }) => note !== null).length;
	return (
		<aside className="panel period-side" aria-label="Deals to look at">
			{deciding}
			<h3 className="mb-0">The biggest open deals</h3>
			{idle > 0 && <p className="second small-text mb-1">Nobody is acting on {idle} of them.</p>}
			{view.biggest.length ? (
				<>
					{lines(view.biggest)}
					<GiveButton dealIds={view.biggest.map(({ id }) => id)} variant="link">
						Give these tasks
					</GiveButton>
				</>
			) : (
				<p className="second small-text">No deals are open in this period.</p>
			)}

			<h3 className="mt-3">Due this week and next</h3>
			{view.dueSoon.map((week) => (
				<Fold
					key={week.label}
					words={
						<>
							{week.label}: {plural(week.count, "deal")}
							{week.early > 0 && <b>, {week.early} whose stage is too early</b>}
						</>
					}
					sum={shortMoney(week.amount, view.currency)}
				>
					{listed(week, "Nothing is due.", opens.address("/deals", { due: `${week.from}..${week.to}` }), true)}
				</Fold>
			))}

			<h3 className="mt-3">Since {view.againstWords}</h3>
			<Fold words={`lit up: ${plural(view.litUp.count, "deal")}`} sum={shortMoney(view.litUp.amount, view.currency)}>
				{listed(view.litUp, "None.", changed)}
			</Fold>
			<Fold words={`cleared: ${plural(view.wentOut.count, "deal")}`} sum={shortMoney(view.wentOut.amount, view.currency)}>
				{listed(view.wentOut, "None.", changed)}
			</Fold>
			{redate}
		</aside>
	);
}
