"use client";
import Link from "next/link";
import { formatDay, weekday } from "@/core/time/day";
import { dayNumber, nearDate, shortDate } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import type { ActivitiesView, ActivityLine } from "../server/readActivities";
import { ACTIVITIES, kept } from "./ActivityFilters";
import "./activities.css";

const WEEKDAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];
/** so many of a day stand in a month; the others are in its week */
const IN_MONTH = 3;
const SIGNS = { done: "●", planned: "○", undone: "◌" } as const;
const STANDING = { done: "done", planned: "planned", undone: "planned, left undone" } as const;

/** A week or a month, day by day: what was done, what is planned, and what was left undone. */
export function ActivityDays({ view, entries }: { view: ActivitiesView; entries: readonly ActivityLine[] }) {
	const address = useAddress();
	const month = view.span === "month";
	const [from, to] = [dayNumber(view.from), dayNumber(view.to)];
	const first = from - ((weekday(from) + 6) % 7);
	const days = Array.from({ length: Math.ceil((to + 1 - first) / 7) * 7 }, (_, i) => first + i);
	const byDay = new Map<string, ActivityLine[]>();
	for (const entry of entries) byDay.set(entry.day, [...(byDay.get(entry.day) ?? []), entry]);
	const toSpan = (at: string | null, span = view.span) => address(ACTIVITIES, { ...kept(view), span, at });
	return (
		<section className="panel activity-days" aria-label={month ? "The month" : "The week"}>
			<div className="d-flex justify-content-between align-items-baseline gap-2">
				<h3>
					{nearDate(view.from, view.seen)} to {nearDate(view.to, view.seen)}
				</h3>
				<span className="d-flex gap-3 small-text no-print">
					<Link href={toSpan(view.before)}>Earlier</Link>
					<Link href={toSpan(null)}>Today</Link>
					<Link href={toSpan(view.after)}>Later</Link>
				</span>
			</div>
			<ol className="activity-grid">
				{days.map((day) => {
					const iso = formatDay(day);
					const own = byDay.get(iso) ?? [];
					const inside = day >= from && day <= to;
					const weekend = weekday(day) === 0 || weekday(day) === 6;
					return (
						<li
							key={iso}
							className={[inside ? "" : "outside", weekend ? "weekend" : "", iso === view.seen ? "today" : "", own.length ? "" : "bare"].join(" ").trim()}
						>
							<span className="tiny second">
								{WEEKDAYS[(weekday(day) + 6) % 7]} {shortDate(iso)}
							</span>
							<Entries own={month ? own.slice(0, IN_MONTH) : own} brief={month} />
							{month && own.length > IN_MONTH && (
								<Link className="tiny" href={toSpan(iso, "week")}>
									{own.length - IN_MONTH} more
								</Link>
							)}
						</li>
					);
				})}
			</ol>
			<p className="tiny second mb-0">● done · ○ planned · ◌ planned and left undone</p>
		</section>
	);
}

function Entries({ own, brief }: { own: readonly ActivityLine[]; brief: boolean }) {
	const address = useAddress();
	return (
		<ul className={brief ? "brief" : undefined}>
			{own.map(({ id, standing, kind, subject, person, deal, account }) => {
				const words = subject ?? "on a deal that you don’t see";
				// In a month there is room for one line: with whom says more than what about.
				const short = account ? `${kind}, ${account.name}` : words;
				const to = deal ? `/deals/${encodeURIComponent(deal.id)}` : account ? `/accounts/${encodeURIComponent(account.id)}` : null;
				return (
					<li key={id} className={standing} title={`${STANDING[standing]}: ${kind}, ${words}, ${person}${account ? `, ${account.name}` : ""}`}>
						<span aria-hidden="true">{SIGNS[standing]}</span>
						<span className="visually-hidden">{STANDING[standing]}: </span> {to ? <Link href={address(to)}>{brief ? short : words}</Link> : words}
						{!brief && <span className="d-block tiny second">{[kind, person, account?.name].filter(Boolean).join(" · ")}</span>}
					</li>
				);
			})}
		</ul>
	);
}
