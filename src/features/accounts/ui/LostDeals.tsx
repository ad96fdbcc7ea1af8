"use client";
import Link from "next/link";
import { parseAsString, useQueryStates } from "nuqs";
import { useState, useTransition } from "react";
import { Button, Form } from "react-bootstrap";
import { withArticle } from "@/core/words/grammar";
import { fullAmount, grouped, nearDate, shortMoney } from "@/ui/format";
import { DayField } from "@/ui/parts/DayField";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { LostDeal } from "../server/lostDeals";
import type { AccountsView } from "../server/readAccounts";

/** Lost deals by reason or competitor; each can be given a day to come back, which makes a task. */
export function LostDeals({ view: { lost, currency }, seen, mayAssign }: { view: AccountsView; seen: string; mayAssign: boolean }) {
	const [waiting, start] = useTransition();
	const [, set] = useQueryStates({ by: parseAsString, lost: parseAsString }, { shallow: false, scroll: false, history: "replace", startTransition: start });
	const { by, only, groups } = lost;
	const most = Math.max(1, ...groups.map((group) => group.amount));
	return (
		<section aria-label="Lost deals" className={waiting ? "waiting" : ""}>
			<div className="d-flex justify-content-between align-items-baseline gap-2">
				<h2>Lost deals to follow up again</h2>
				<Form.Select
					size="sm"
					className="w-auto no-print"
					aria-label="Group lost deals by"
					value={by}
					onChange={(event) => void set({ by: event.target.value === "reason" ? null : event.target.value, lost: null })}
				>
					<option value="reason">by reason</option>
					<option value="competitor">by competitor</option>
				</Form.Select>
			</div>
			{!groups.length && <p className="panel second">No deals were lost in the last 18 months.</p>}
			<ul className="lost-groups">
				{groups.map((group) => (
					<li key={group.name}>
						<button
							type="button"
							className="lost-group"
							aria-pressed={only === group.name}
							onClick={() => void set({ lost: only === group.name ? null : group.name })}
						>
							<span>{group.name}</span>
							<svg className="bar" width="100%" height={6} preserveAspectRatio="none" aria-hidden="true">
								<rect className="bar-gone" width={`${(100 * group.amount) / most}%`} height={6} />
							</svg>
							<span className="num second">
								{grouped(group.count)} · {shortMoney(group.amount, currency)}
							</span>
						</button>
					</li>
				))}
			</ul>
			<div className="panel mt-3 py-1">
				<ul className="rows lost-list">
					{lost.deals.map((deal) => (
						<Lost key={deal.id} deal={deal} seen={seen} currency={currency} mayAssign={mayAssign} />
					))}
				</ul>
			</div>
			{lost.count > lost.deals.length && (
				<p className="tiny second mt-1">
					The largest {lost.deals.length} of {grouped(lost.count)}
					{only === null ? `; choose ${withArticle(by)} to see its deals.` : "."}
				</p>
			)}
		</section>
	);
}

function Lost({ deal, seen, currency, mayAssign }: { deal: LostDeal; seen: string; currency: string; mayAssign: boolean }) {
	const [day, setDay] = useState<string | null>(null);
	const run = useRun();
	const act = useAct();
	const give = async () => {
		if (!day) return;
		const title = `Follow up with ${deal.account}: lost on ${nearDate(deal.lostOn, seen)}, ${deal.reason.toLowerCase()}`.slice(0, 300);
		const done = await act(
			run("tasks.comeBack", { dealId: deal.id, day, title }),
			(made) => `${made.assignee} is due for follow-up on ${nearDate(day, seen)}.`,
			(made) => run("tasks.takeBack", { ids: [made.id] }),
		);
		if (done) setDay(null);
	};
	return (
		<li>
			<span>
				<Link href={`/deals/${encodeURIComponent(deal.id)}`}>{deal.name}</Link> <span className="second">{deal.account}</span>
				<span className="d-block tiny second">
					{deal.reason}, {deal.competitor} · {deal.owner} · lost {nearDate(deal.lostOn, seen)}
				</span>
			</span>
			<span className="text-end">
				{fullAmount(deal.amount, currency)}
				<span className="d-block tiny no-print">
					{deal.back ? (
						<span className="gained text-nowrap">follow-up on {nearDate(deal.back, seen)}</span>
					) : day === null ? (
						mayAssign && (
							<button type="button" className="remedy text-nowrap" onClick={() => setDay(deal.suggested)}>
								Follow up …
							</button>
						)
					) : (
						<Form
							className="d-flex gap-1"
							onSubmit={(event) => {
								event.preventDefault();
								void give();
							}}
						>
							<DayField size="sm" aria-label={`Follow-up day for ${deal.name}`} min={seen} value={day} required autoFocus onDay={(day) => setDay(day)} />
							<Button size="sm" type="submit">
								Give
							</Button>
						</Form>
					)}
				</span>
			</span>
		</li>
	);
}
