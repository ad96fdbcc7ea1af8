"use client";
import { useRouter, useSearchParams } from "next/navigation";
import { parseAsString, useQueryState } from "nuqs";
import { useTransition } from "react";
import { Form } from "react-bootstrap";
import { shortMoney } from "@/ui/format";
import type { FrameView } from "@/ui/frame/view";
import type { TrendView as View } from "../server/readTrend";
import { TrendChart } from "./TrendChart";
import { TrendTable } from "./TrendTable";

/** The open amount at each week's end, with what was won and lost so far; a week opens that day. */
export function TrendView({ view, frame }: { view: View; frame: FrameView["sentence"] }) {
	const [waiting, start] = useTransition();
	const [, setBy] = useQueryState("by", parseAsString.withOptions({ shallow: false, history: "replace", startTransition: start }));
	const router = useRouter();
	const params = useSearchParams();
	const [first, last] = [view.points[0], view.points.at(-1)];
	const moved = (last?.open ?? 0) - (first?.open ?? 0);
	const open = (day: string) => {
		const next = new URLSearchParams([...params].filter(([name]) => ["whose", "due"].includes(name)));
		if (day !== frame.seen.day) next.set("seen", day);
		router.push(`/deals?${next}`);
	};
	return (
		<section className={waiting ? "waiting" : ""} aria-busy={waiting}>
			<div className="d-flex justify-content-between align-items-baseline gap-3 flex-wrap mb-2">
				<h2>
					Open pipeline {moved < 0 ? "fell" : "grew"} by {shortMoney(Math.abs(moved), view.currency)} in {view.points.length - 1} weeks
					{view.target !== null && (
						<span className="second fs-6">
							{" "}
							· won {shortMoney(last?.won ?? 0, view.currency)} so far, of a target of {shortMoney(view.target, view.currency)}
						</span>
					)}
				</h2>
				<Form.Select
					size="sm"
					className="w-auto no-print"
					aria-label="Bands"
					value={view.by}
					onChange={(event) => void setBy(event.target.value === "stage" ? null : event.target.value)}
				>
					{view.fields.map((field) => (
						<option key={field.key} value={field.key}>
							by {field.label}
						</option>
					))}
				</Form.Select>
			</div>
			<TrendChart view={view} seen={frame.seen.day} open={open} />
			<TrendTable view={view} seen={frame.seen.day} open={open} />
		</section>
	);
}
