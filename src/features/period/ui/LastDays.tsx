"use client";
import { plural } from "@/core/words/grammar";
import { GiveButton } from "@/features/tasks/ui/GiveButton";
import { shortMoney } from "@/ui/format";
import type { EndingGroup, LastDays as View } from "../server/lastDays";
import { DealLineItem } from "./DealLineItem";
import { type Days, useOpens } from "./opens";
import { type Chances, RoundOverSlot } from "./slots";

const HEADS = { date: "Needs a date", close: "Can close", left: "Won’t close" } as const;
const ABOUT = {
	date: "overdue, without a date, or in a stage too early for it",
	close: "by its stage and the days that are left",
	left: "left out by its rep",
} as const;

interface Props {
	readonly view: View;
	readonly days: Days;
	readonly currency: string;
	/** null while they aren't known */
	readonly chances: Chances | null;
}

/** What can still be done in a period's last days: each open deal by what it needs, gone through by keyboard in a round. */
export function LastDays({ view, days, currency, chances }: Props) {
	const groups = view.groups.filter(({ count }) => count > 0);
	if (!groups.length) return null;
	return (
		<section className="panel period-last" aria-label="The last days">
			<h3>{view.left === 0 ? "The last day" : `The last days: ${plural(view.left, "working day")} left`}. What can still be done</h3>
			<div className="period-needs">
				{groups.map((group) => (
					<Group key={group.need} group={group} days={days} currency={currency} chances={chances} />
				))}
			</div>
		</section>
	);
}

function Group({ group, days, currency, chances }: Omit<Props, "view"> & { group: EndingGroup }) {
	const opens = useOpens(days);
	return (
		<section aria-label={HEADS[group.need]}>
			<h4>
				{HEADS[group.need]} <span className="second">{plural(group.count, "deal")}</span> <span className="num">{shortMoney(group.amount, currency)}</span>
			</h4>
			<p className="second tiny mb-1">{ABOUT[group.need]}</p>
			<div className="d-flex gap-2 flex-wrap no-print">
				<RoundOverSlot dealIds={group.ids} due={`${days.from}..${days.to}`} />
				{group.need !== "left" && (
					<GiveButton dealIds={group.deals.map(({ id }) => id)} variant="link">
						Give these tasks
					</GiveButton>
				)}
			</div>
			<ul className="period-deals">
				{group.deals.map((deal) => (
					<DealLineItem
						key={deal.id}
						deal={deal}
						href={opens.deal(deal.id)}
						currency={currency}
						said={[deal.owner, deal.note, chanceWords(chances, deal.id)]}
					/>
				))}
			</ul>
			{group.count > group.deals.length && <p className="small-text second">and {group.count - group.deals.length} more</p>}
		</section>
	);
}

/** How often comparable deals were won with so many days left; nothing where it isn't known. */
function chanceWords(chances: Chances | null, id: string): string | null {
	const chance = chances?.get(id);
	if (chance === undefined) return null;
	return chance < 0.01 ? "chance under 1%" : `chance ${Math.round(100 * chance)}%`;
}
