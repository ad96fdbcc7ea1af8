"use client";
import Link from "next/link";
import { parseAsString, useQueryStates } from "nuqs";
import { useCallback, useTransition } from "react";
import { Form } from "react-bootstrap";
import { shortDate } from "@/ui/format";
import { useMay } from "@/ui/frame/may";
import { TableExport } from "@/ui/parts/ExportMenu";
import { DataTable } from "@/ui/parts/table/DataTable";
import { type BehindView, type PatternTable, type PatternView, sortedBy } from "../table/view";
import { BehindPanel } from "./BehindPanel";
import { CellView } from "./CellView";
import "./patterns.css";

interface Props {
	readonly view: PatternView;
	readonly behind: BehindView | null;
	readonly seen: string;
}

/** What one view of the past says: its finding, its tables, and the deals behind the figure that is opened. */
export function PatternScreen({ view, behind, seen }: Props) {
	const [waiting, start] = useTransition();
	const [, set] = useQueryStates({ by: parseAsString, open: parseAsString }, { shallow: false, scroll: false, history: "replace", startTransition: start });
	const close = useCallback(() => void set({ open: null }), [set]);
	const { headline, beside, tables, looked, groupings, by, currency, follow } = view;
	const mayFollow = useMay(follow?.right ?? "");
	return (
		<>
			<h2>{headline}</h2>
			<ul className="pattern-beside second">
				{beside.map((words) => (
					<li key={words}>{words}</li>
				))}
			</ul>
			{follow && mayFollow && (
				<p className="small-text no-print">
					<Link href={follow.path}>{follow.label}</Link>
				</p>
			)}
			{groupings.length > 0 && (
				<Form.Select
					size="sm"
					className="w-auto mb-2 no-print"
					aria-label="Grouped"
					value={by ?? ""}
					onChange={(event) => void set({ by: event.target.value, open: null })}
				>
					{groupings.map(({ key, label }) => (
						<option key={key} value={key}>
							{label}
						</option>
					))}
				</Form.Select>
			)}
			<div className={`pattern-body ${behind ? "with-behind" : ""} ${waiting ? "waiting" : ""}`}>
				<div className="pattern-tables">
					{tables.map((table) => (
						<Table
							key={table.key}
							table={table}
							currency={currency}
							seen={seen}
							opened={behind?.key ?? null}
							onOpen={(key) => void set({ open: key === behind?.key ? null : key })}
						/>
					))}
				</div>
				{behind && <BehindPanel behind={behind} currency={currency} seen={seen} onClose={close} />}
			</div>
			<p className="tiny second mt-2">
				{looked && `Looked at on ${looked.map(({ day }) => shortDate(day)).join(", ") || "no day"}. `}
				Groups of fewer than five aren’t shown. Lines are 95% intervals (Wilson); where two overlap, the difference may be chance. Averages and sums have none:
				one large deal can move them.
			</p>
		</>
	);
}

const NUMBERS = new Set(["count", "number", "money", "percent"]);

interface TableProps {
	readonly table: PatternTable;
	readonly currency: string;
	readonly seen: string;
	readonly opened: string | null;
	readonly onOpen: (key: string) => void;
}

function Table({ table: { key, title, lead, of, columns, rows, empty, half }, currency, seen, opened, onOpen }: TableProps) {
	return (
		<section className={`pattern-table ${half ? "half" : ""}`} aria-label={title}>
			<div className="d-flex justify-content-between align-items-baseline gap-2">
				<h3>{title}</h3>
				{rows.length > 0 && <TableExport table="patterns" more={{ part: key }} of={title} />}
			</div>
			{lead && <p className="tiny second mb-1">{lead}</p>}
			<DataTable
				of={title}
				rows={rows.filter(({ total }) => !total)}
				totals={rows.filter(({ total }) => total)}
				rowKey={(row) => row.key}
				rowClass={({ total }) => (total ? "total" : undefined)}
				empty={empty}
				columns={[
					{
						key: "name",
						label: of.slice(0, 1).toUpperCase() + of.slice(1),
						names: true,
						by: ({ name }) => name,
						cell: ({ dealId, name, tiny }) => (
							<>
								{dealId ? <Link href={`/deals/${encodeURIComponent(dealId)}`}>{name}</Link> : name}
								{tiny && <span className="d-block tiny second fw-normal">{tiny}</span>}
							</>
						),
					},
					...columns.map(({ label, kind }, i) => ({
						key: String(i),
						label,
						num: NUMBERS.has(kind),
						by: (row: PatternTable["rows"][number]) => (row.cells[i] ? sortedBy(row.cells[i]) : null),
						cell: (row: PatternTable["rows"][number]) => {
							const cell = row.cells[i];
							return (
								cell && (
									<CellView
										cell={cell}
										currency={currency}
										seen={seen}
										of={`${row.name}, ${label}`}
										opened={"opens" in cell && cell.opens !== undefined && cell.opens === opened}
										onOpen={onOpen}
									/>
								)
							);
						},
					})),
				]}
			/>
		</section>
	);
}
