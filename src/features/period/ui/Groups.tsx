"use client";
import Link from "next/link";
import { parseAsString, useQueryStates } from "nuqs";
import { useTransition } from "react";
import { Form } from "react-bootstrap";
import { DataTable } from "@/ui/parts/table/DataTable";
import type { GroupRow, PeriodView } from "../server/readPeriod";
import { reachOfBeam } from "../table/beam";
import { figureOf } from "../table/figures";
import { figureWords } from "../table/figureWords";
import { GROUPINGS } from "../table/groupings";
import { Bar } from "./Beam";
import { type Days, useOpens } from "./opens";

/** What a row says beside its beam; each column can be sorted by. `opens` says which figure's deals a cell leads to. */
const COLUMNS = [
	{ key: "target", label: "Target", unit: "amount", value: (row: GroupRow) => row.figures.target, opens: "target" },
	{ key: "gap", label: "Gap", unit: "amount", value: (row: GroupRow) => row.figures.gap, opens: "gap" },
	{ key: "cover", label: "Cover", unit: "times", value: (row: GroupRow) => row.figures.cover, opens: "open" },
	{ key: "won", label: "Win rate, by count", unit: "share", value: (row: GroupRow) => row.figures.winRate.count, opens: "winRate" },
	{ key: "act", label: "At act", unit: "count", value: (row: GroupRow) => row.figures.attention.act, opens: "act" },
	{ key: "late", label: "Tasks late", unit: "count", value: (row: GroupRow) => row.teamMetrics.lateTasks, opens: "lateTasks" },
	{ key: "contacts", label: "Contacts a day", unit: "perDay", value: (row: GroupRow) => row.teamMetrics.contacts?.aDay ?? null, opens: "contactsADay" },
	{ key: "undone", label: "Not done", unit: "count", value: (row: GroupRow) => row.teamMetrics.contacts?.undone ?? null, opens: "undone" },
] as const;

/** The period by rep, team, territory, family or kind of customer: a small beam each, on one scale. A row narrows the sentence to it. */
export function Groups({ view, days }: { view: PeriodView; days: Days }) {
	// Long: one table, its columns in their order.
	const [waiting, start] = useTransition();
	const [{ sort }, set] = useQueryStates({ by: parseAsString, sort: parseAsString }, { shallow: false, history: "push", startTransition: start });
	const opens = useOpens(days);
	const scale = Math.max(...view.groups.map((row) => reachOfBeam(row.figures)), 0) * 1.02;
	const whereTo = (row: GroupRow, figure: string) => {
		const [path, asked] = opens.figure(figure).split("?");
		const query = new URLSearchParams(asked);
		if (row.whose) query.set("whose", row.whose);
		if (row.filter) query.set("f", [query.get("f"), row.filter].filter(Boolean).join(";"));
		return `${path}?${query}`;
	};
	return (
		<section className={`panel p-0 groups ${waiting ? "waiting" : ""}`} aria-label="By person or group" aria-busy={waiting}>
			<Head by={view.by} onBy={(by) => void set({ by: by === "rep" ? null : by })} />
			<DataTable
				of="Groups"
				className="groups-scroll"
				rows={[...view.groups].sort((a, b) => reachOfBeam(b.figures) - reachOfBeam(a.figures))}
				rowKey={({ key }) => key}
				sorting={{
					sort: sort ? { key: sort.replace(/^-/, ""), down: sort.startsWith("-") } : null,
					onSort: (next) => void set({ sort: next && `${next.down ? "-" : ""}${next.key}` }),
				}}
				empty={<p className="second px-3">None of these people has a deal in this period, or a target for it.</p>}
				columns={[
					{
						key: "name",
						label: "Name",
						names: true,
						cell: (row) =>
							row.whose ? (
								<Link href={opens.address("/period", { whose: row.whose })}>{row.name}</Link>
							) : row.filter ? (
								<Link href={whereTo(row, "open")}>{row.name}</Link>
							) : (
								row.name
							),
					},
					{
						key: "beam",
						label: "Beam",
						className: "groups-beam",
						cell: ({ figures }) => <Bar figures={figures} scale={scale} currency={view.currency} small />,
					},
					...COLUMNS.map((one) => ({
						key: one.key,
						label: one.label,
						num: true,
						by: one.value,
						cell: (row: GroupRow) => {
							const value = one.value(row);
							const words = figureWords(value, one.unit, view.currency);
							return value !== null && (figureOf(one.opens)?.opens || row.whose) ? <Link href={whereTo(row, one.opens)}>{words}</Link> : words;
						},
					})),
				]}
			/>
		</section>
	);
}

function Head({ by, onBy }: { by: string; onBy: (by: string) => void }) {
	return (
		<div className="groups-head">
			<h3 className="mb-0">
				By{" "}
				<Form.Select
					size="sm"
					className="d-inline-block w-auto no-print"
					aria-label="Group the period by"
					value={by}
					onChange={(event) => onBy(event.target.value)}
				>
					{GROUPINGS.map(({ key, label }) => (
						<option key={key} value={key}>
							{label}
						</option>
					))}
				</Form.Select>
				<span className="print-only">{GROUPINGS.find(({ key }) => key === by)?.label}</span>
			</h3>
			<span className="second small-text">won, commit, best case, pipeline against the target, on one scale</span>
		</div>
	);
}
