"use client";
import Link from "next/link";
import { parseAsString, useQueryStates } from "nuqs";
import { useTransition } from "react";
import { Button, Form } from "react-bootstrap";
import { byCount, plural } from "@/core/words/grammar";
import { sheetAddress } from "@/features/sheet/ui/SheetBody";
import { GiveButton } from "@/features/tasks/ui/GiveButton";
import { change } from "@/ui/format";
import type { FrameView } from "@/ui/frame/view";
import { DataTable } from "@/ui/parts/table/DataTable";
import type { DifferencesView, DifferenceView } from "../server/readDifferences";

/** Deal by deal: only what differs, before and after, and whether that is better or worse. */
export function Differences({ view, frame }: { view: DifferencesView; frame: FrameView["sentence"] }) {
	const [waiting, start] = useTransition();
	const [, look] = useQueryStates({ order: parseAsString, all: parseAsString }, { shallow: false, history: "replace", startTransition: start });
	return (
		<section className={waiting ? "waiting" : ""} aria-busy={waiting}>
			<div className="d-flex justify-content-between align-items-baseline gap-3 flex-wrap mb-2">
				<h2>
					{plural(view.count, "deal changed", "deals changed")} between {frame.against.label} and {frame.seen.label}
					<span className="second fs-6">
						{view.same > 0 && ` · ${view.same} don’t`} · {plural(view.lit, "flag")} lit, {view.wentOut} cleared
					</span>
				</h2>
				<Form.Select
					size="sm"
					className="w-auto no-print"
					aria-label="Order"
					value={view.order}
					onChange={(event) => void look({ order: event.target.value === "effect" ? null : event.target.value, all: null })}
				>
					{view.orders.map((one) => (
						<option key={one.key} value={one.key}>
							by {one.label}
						</option>
					))}
				</Form.Select>
			</div>
			{view.deals.length > 0 && (
				<p className="mb-2">
					<GiveButton dealIds={view.deals.map(({ id }) => id)}>Give {byCount(view.deals.length, "a task", `these ${view.deals.length} tasks`)}</GiveButton>
				</p>
			)}
			<Deals view={view} frame={frame} />
			{view.count > view.deals.length && (
				<Button size="sm" variant="link" onClick={() => void look({ all: "1" })}>
					Show all {view.count}
				</Button>
			)}
		</section>
	);
}

function Deals({ view, frame }: { view: DifferencesView; frame: FrameView["sentence"] }) {
	return (
		<DataTable
			of="What changed"
			tableClass="differences"
			rows={view.deals}
			rowKey={({ id }) => id}
			empty="Nothing changed between these two days."
			columns={[
				{
					key: "deal",
					label: "Deal",
					cell: ({ id, name, account, owner }) => (
						<>
							<Link href={sheetAddress({ id, past: frame.seen.past, seen: frame.seen.day, against: frame.against.day })}>
								<b>{name}</b>
							</Link>
							<span className="d-block tiny second">
								{account} · {owner}
							</span>
						</>
					),
				},
				{
					key: "effect",
					label: "Effect on the period",
					num: true,
					cell: ({ effect }) => <span className={effect > 0 ? "gained" : effect < 0 ? "worse" : "third"}>{effect ? change(effect, view.currency) : "–"}</span>,
				},
				{ key: "what", label: "What changed", cell: ({ differences }) => differences.map((one) => <Difference key={one.what} of={one} />) },
				{
					key: "flags",
					label: "Flags",
					className: "small-text",
					cell: ({ lit, wentOut }) => (
						<>
							{lit.length > 0 && (
								<div>
									<b>lit</b> {lit.join(", ")}
								</div>
							)}
							{wentOut.length > 0 && <div className="second">cleared {wentOut.join(", ")}</div>}
						</>
					),
				},
			]}
		/>
	);
}

/** One field before and after: better points up, worse points down, and both say so. */
function Difference({ of: { what, before, after, better, told } }: { of: DifferenceView }) {
	return (
		<div className="small-text">
			<span
				className={better === true ? "gained" : better === false ? "worse" : "third"}
				title={better === true ? "better" : better === false ? "worse" : undefined}
			>
				<span aria-hidden="true">{better === true ? "▲" : better === false ? "▼" : "·"}</span>
				<span className="visually-hidden">{better === true ? "better: " : better === false ? "worse: " : ""}</span>
			</span>{" "}
			<span className="second">{what}</span> {before} → <b>{after}</b>
			{told && <span className={better === true ? "gained" : better === false ? "worse" : "second"}> · {told}</span>}
		</div>
	);
}
