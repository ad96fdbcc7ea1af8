"use client";
import Link from "next/link";
import { parseAsString, parseAsStringLiteral, useQueryState } from "nuqs";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import type { AccountsView, LostDeal } from "@/usecases/readAccounts";
import { useActions } from "../../actions";
import { nearDate, shortMoney, wholeAmount } from "../../format";
import { useAct } from "../../parts/useAct";

const BY = ["reason", "competitor"] as const;
const SHOWN = 40;

/** Lost deals by reason or competitor; each can be given a day to come back, which makes a task. */
export function LostDeals({ view, seen, mayAssign }: { view: AccountsView; seen: string; mayAssign: boolean }) {
	const [by, setBy] = useQueryState("by", parseAsStringLiteral(BY).withDefault("reason"));
	const [only, setOnly] = useQueryState("lost", parseAsString);
	const groups = new Map<string, LostDeal[]>();
	for (const deal of view.lost) groups.set(deal[by], [...(groups.get(deal[by]) ?? []), deal]);
	const sorted = [...groups]
		.map(([name, deals]) => ({ name, deals, amount: deals.reduce((sum, deal) => sum + deal.amount, 0) }))
		.sort((a, b) => b.amount - a.amount);
	const shown = view.lost.filter((deal) => !only || deal[by] === only).slice(0, SHOWN);
	const most = Math.max(1, ...sorted.map((group) => group.amount));
	return (
		<section aria-label="Lost deals">
			<div className="d-flex justify-content-between align-items-baseline gap-2">
				<h2>Lost, worth a second visit</h2>
				<Form.Select
					size="sm"
					className="w-auto no-print"
					aria-label="Group lost deals by"
					value={by}
					onChange={(event) => {
						void setBy(event.target.value as (typeof BY)[number]);
						void setOnly(null);
					}}
				>
					<option value="reason">by reason</option>
					<option value="competitor">by competitor</option>
				</Form.Select>
			</div>
			{!view.lost.length && <p className="panel second">Nothing was lost in the last year and a half.</p>}
			<ul className="lost-groups">
				{sorted.map((group) => (
					<li key={group.name}>
						<button
							type="button"
							className="lost-group"
							aria-pressed={only === group.name}
							onClick={() => void setOnly(only === group.name ? null : group.name)}
						>
							<span>{group.name}</span>
							<svg className="bar" width="100%" height={6} preserveAspectRatio="none" aria-hidden="true">
								<rect className="bar-gone" width={`${(100 * group.amount) / most}%`} height={6} />
							</svg>
							<span className="num second">
								{group.deals.length} · {shortMoney(group.amount, view.currency)}
							</span>
						</button>
					</li>
				))}
			</ul>
			<div className="panel mt-3 py-1">
				<ul className="rows lost-list">
					{shown.map((deal) => (
						<Lost key={deal.id} deal={deal} seen={seen} currency={view.currency} mayAssign={mayAssign} />
					))}
				</ul>
			</div>
			{view.lost.length > SHOWN && !only && <p className="tiny second mt-1">The {SHOWN} largest are shown; choose a reason to see its own.</p>}
		</section>
	);
}

function Lost({ deal, seen, currency, mayAssign }: { deal: LostDeal; seen: string; currency: string; mayAssign: boolean }) {
	const [day, setDay] = useState<string | null>(null);
	const actions = useActions();
	const act = useAct();
	const give = async () => {
		if (!day) return;
		const title = `Come back to ${deal.account}: lost on ${nearDate(deal.lostOn, seen)}, ${deal.reason.toLowerCase()}`.slice(0, 300);
		const done = await act(
			actions.comeBack(deal.id, day, title),
			(made) => `${made.assignee} comes back on ${nearDate(day, seen)}.`,
			(made) => actions.takeBack([made.id]),
		);
		if (done) setDay(null);
	};
	return (
		<li>
			<span>
				<Link href={`/deals/${encodeURIComponent(deal.id)}`}>{deal.name}</Link> <span className="second">{deal.account}</span>
				<span className="d-block tiny second">
					{deal.reason}, {deal.competitor} · {deal.owner.split(" ")[0]} · lost {nearDate(deal.lostOn, seen)}
				</span>
			</span>
			<span className="text-end">
				{wholeAmount(deal.amount, currency)}
				<span className="d-block tiny no-print">
					{deal.back ? (
						<span className="gained text-nowrap">back on {nearDate(deal.back, seen)}</span>
					) : day === null ? (
						mayAssign && (
							<button type="button" className="remedy text-nowrap" onClick={() => setDay(deal.suggested)}>
								Come back …
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
							<Form.Control
								type="date"
								size="sm"
								aria-label={`Day to come back to ${deal.name}`}
								min={seen}
								value={day}
								required
								autoFocus
								onChange={(event) => setDay(event.target.value)}
							/>
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
