"use client";
import Link from "next/link";
import { useSearchParams } from "next/navigation";
import { formatDay } from "@/core/time/day";
import { dayNumber } from "@/ui/format";
import type { FrameView } from "@/ui/frame/view";
import type { DealsView } from "../server/readDeals";

/** Open deals of the same people that the period leaves out; each count leads to them. */
export function AlsoOpen({ also, due }: { also: DealsView["also"]; due: FrameView["sentence"]["due"] }) {
	const params = useSearchParams();
	const to = (period: string) => {
		const next = new URLSearchParams([...params].filter(([name]) => ["whose", "seen", "against"].includes(name)));
		next.set("due", period);
		return `/deals?${next}`;
	};
	const parts = [
		due.start && also.before > 0 && (
			<Link key="before" href={to(`..${formatDay(dayNumber(due.start) - 1)}`)}>
				{also.before} due before it
			</Link>
		),
		due.end && also.after > 0 && (
			<Link key="after" href={to(`${formatDay(dayNumber(due.end) + 1)}..`)}>
				{also.after} due later
			</Link>
		),
		also.undated > 0 && (
			<Link key="undated" href={to("none")}>
				{also.undated} without a close date
			</Link>
		),
	].filter(Boolean);
	if (!parts.length) return null;
	return (
		<>
			{" "}
			— also open:{" "}
			{parts.map((part, i) => (
				<span key={String(i)}>
					{i > 0 && " · "}
					{part}
				</span>
			))}
		</>
	);
}
