"use client";
import Link from "next/link";
import { Button } from "react-bootstrap";
import { byCount, plural } from "@/core/words/grammar";
import { sheetAddress } from "@/features/sheet/ui/SheetBody";
import { GiveButton } from "@/features/tasks/ui/GiveButton";
import { currencySign, fullAmount, money, nearDate } from "@/ui/format";
import type { FrameView } from "@/ui/frame/view";
import { TableExport } from "@/ui/parts/ExportMenu";
import type { TableColumn } from "@/ui/parts/table/column";
import { DataTable } from "@/ui/parts/table/DataTable";
import type { ChangedStep } from "../server/changesView";

/** How many lines are shown of all that moved. */
const SHOWN = 60;

/** Steps whose deals are closed: nothing is left to be done about them. */
const ENDED: ReadonlySet<string> = new Set(["won", "lost"]);

interface Props {
	readonly steps: readonly ChangedStep[];
	readonly currency: string;
	readonly chosen: ChangedStep | null;
	/** only deals of this part */
	readonly part: string | null;
	/** what was said of why, by deal */
	readonly notes: Readonly<Record<string, string>>;
	readonly onClear: () => void;
	readonly onAll: () => void;
	readonly frame: FrameView["sentence"];
}

/** The deals behind the steps, before and after. Only what differs is told twice. */
export function ChangedDeals({ steps, currency, chosen, part, notes, onClear, onAll, frame }: Props) {
	const lines = steps.flatMap((step) => step.deals.map((deal) => ({ step, deal }))).sort((a, b) => b.deal.amount - a.deal.amount);
	const total = steps.reduce((sum, step) => ({ count: sum.count + step.shown.count, amount: sum.amount + step.shown.amount }), { count: 0, amount: 0 });
	const shown = chosen ? lines : lines.slice(0, SHOWN);
	return (
		<section className="panel mt-3 changed" aria-label="Deals behind the steps">
			<div className="d-flex justify-content-between align-items-baseline mb-1">
				<h3>
					{chosen
						? `${chosen.name}: ${plural(total.count, "deal")}, ${money(total.amount, currency)}`
						: `All deals that changed: ${plural(total.count, "step")}, the largest first`}
					{part && ` · ${part}`}
				</h3>
				<span className="d-flex gap-3 align-items-baseline">
					{chosen && !ENDED.has(chosen.kind) && lines.length > 0 && (
						<GiveButton dealIds={lines.map(({ deal }) => deal.id)}>Give {byCount(lines.length, "a task", `these ${lines.length} tasks`)}</GiveButton>
					)}
					<TableExport table="changes" />
					{(chosen || part) && (
						<Button size="sm" variant="link" onClick={onClear}>
							Show all that changed
						</Button>
					)}
				</span>
			</div>
			<Lines lines={shown} currency={currency} notes={notes} frame={frame} />
			{total.count > shown.length && (
				<p className="tiny second mb-0">
					The largest {shown.length} of {total.count}.{" "}
					{chosen ? (
						<Button size="sm" variant="link" className="p-0 align-baseline" onClick={onAll}>
							Show all {total.count}
						</Button>
					) : (
						"Choose a step to see all of its deals."
					)}
				</p>
			)}
		</section>
	);
}

interface LinesProps extends Pick<Props, "currency" | "notes" | "frame"> {
	readonly lines: readonly { readonly step: ChangedStep; readonly deal: ChangedStep["deals"][number] }[];
}

type Line = LinesProps["lines"][number];

/** Only what differs is told twice. */
const pair = (before: string, after: string) =>
	before === after ? (
		after
	) : (
		<>
			{before} → {after}
		</>
	);

const Lines = ({ lines, ...view }: LinesProps) => (
	<DataTable
		of="Deals"
		className=""
		tableClass="moved"
		rows={lines}
		rowKey={({ step, deal }) => step.kind + deal.id}
		empty={<p className="second mb-0">Nothing changed between the two days.</p>}
		columns={columnsOf(view)}
	/>
);

function columnsOf({ currency, notes, frame }: Omit<LinesProps, "lines">): readonly TableColumn<Line>[] {
	// Long: one table, its columns in their order.
	const near = frame.seen.day;
	const sign = currencySign(currency).trim();
	return [
		{ key: "movement", label: "Movement", className: "text-nowrap", by: ({ step }) => step.name, cell: ({ step }) => step.name },
		{
			key: "deal",
			label: "Deal",
			by: ({ deal }) => deal.name,
			cell: ({ deal }) => (
				<>
					<Link href={sheetAddress({ id: deal.id, past: frame.seen.past, seen: frame.seen.day, against: frame.against.day })}>
						<b>{deal.name}</b>
					</Link>{" "}
					<span className="second">{deal.account}</span>
				</>
			),
		},
		{ key: "rep", label: "Rep", className: "text-nowrap", by: ({ deal }) => deal.owner, cell: ({ deal }) => deal.owner },
		{
			key: "step",
			label: `Step ${sign}`,
			num: true,
			by: ({ step, deal }) => (step.leaves ? -deal.amount : deal.amount),
			cell: ({ step, deal }) => (
				<span className={step.kind === "won" ? "gained" : step.leaves ? "worse" : ""}>
					{step.leaves ? "−" : ""}
					{fullAmount(deal.amount, currency)}
				</span>
			),
		},
		{
			key: "amount",
			label: `Amount ${sign}`,
			num: true,
			by: ({ deal }) => deal.after ?? deal.before,
			cell: ({ deal }) =>
				deal.before === null
					? fullAmount(deal.after ?? 0, currency)
					: pair(fullAmount(deal.before, currency), deal.after === null ? "gone" : fullAmount(deal.after, currency)),
		},
		{
			key: "close",
			label: "Close date",
			className: "text-nowrap",
			by: ({ deal }) => deal.closeAfter,
			cell: ({ deal }) =>
				deal.stageBefore === null ? nearDate(deal.closeAfter, near) : pair(nearDate(deal.closeBefore, near), nearDate(deal.closeAfter, near)),
		},
		{
			key: "stage",
			label: "Stage and note",
			cell: ({ deal }) => (
				<>
					{deal.stageBefore === null ? deal.stageAfter : pair(deal.stageBefore, deal.stageAfter ?? "gone")}
					{notes[deal.id] && <span className="d-block tiny">“{notes[deal.id]}”</span>}
					{deal.also.length > 0 && <span className="d-block tiny second">{deal.also.join("; ")}</span>}
				</>
			),
		},
	];
}
