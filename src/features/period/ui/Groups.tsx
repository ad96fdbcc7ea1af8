"use client";
import Link from "next/link";
import { parseAsString, useQueryStates } from "nuqs";
import { useTransition } from "react";
import { Form } from "react-bootstrap";
import { Scrolls } from "@/ui/parts/Scrolls";
import type { GroupRow, PeriodView } from "../server/readPeriod";
import { figureOf } from "../table/figures";
import { GROUPINGS } from "../table/groupings";
import { Bar, reachOfBeam } from "./Beam";
import { type Days, useOpens } from "./opens";
import { figureWords } from "./words";

/** What a row says beside its beam; each column can be sorted by. `opens` says which figure's deals a cell leads to. */
const COLUMNS = [
	{ key: "target", words: "Target", unit: "amount", of: (row: GroupRow) => row.figures.target, opens: "target" },
	{ key: "gap", words: "Gap", unit: "amount", of: (row: GroupRow) => row.figures.gap, opens: "gap" },
	{ key: "cover", words: "Cover", unit: "times", of: (row: GroupRow) => row.figures.cover, opens: "open" },
	{ key: "won", words: "Win rate, by count", unit: "share", of: (row: GroupRow) => row.figures.winRate.count, opens: "winRate" },
	{ key: "act", words: "At act", unit: "count", of: (row: GroupRow) => row.figures.attention.act, opens: "act" },
	{ key: "late", words: "Tasks late", unit: "count", of: (row: GroupRow) => row.around.lateTasks, opens: "lateTasks" },
	{ key: "contacts", words: "Contacts a day", unit: "perDay", of: (row: GroupRow) => row.around.contacts?.aDay ?? null, opens: "contactsADay" },
	{ key: "undone", words: "Not done", unit: "count", of: (row: GroupRow) => row.around.contacts?.undone ?? null, opens: "undone" },
] as const;

/** The period by rep, team, territory, family or kind of customer: a small beam each, on one scale. A row narrows the sentence to it. */
export function Groups({ view, days }: { view: PeriodView; days: Days }) {
	const [waiting, start] = useTransition();
	const [{ sort }, set] = useQueryStates({ by: parseAsString, sort: parseAsString }, { shallow: false, history: "push", startTransition: start });
	const opens = useOpens(days);
	const [sorted, down] = sort?.startsWith("-") ? [sort.slice(1), true] : [sort, false];
	const column = COLUMNS.find(({ key }) => key === sorted);
	const none = down ? Number.NEGATIVE_INFINITY : Number.POSITIVE_INFINITY;
	const rows = column
		? [...view.groups].sort((a, b) => ((column.of(a) ?? none) - (column.of(b) ?? none)) * (down ? -1 : 1))
		: [...view.groups].sort((a, b) => reachOfBeam(b.figures) - reachOfBeam(a.figures));
	const scale = Math.max(...view.groups.map((row) => reachOfBeam(row.figures)), 0) * 1.02;
	const turn = (key: string) => void set({ sort: sort === `-${key}` ? key : `-${key}` });
	const whereTo = (row: GroupRow, figure: string) => {
		const [path, asked] = opens.figure(figure).split("?");
		const query = new URLSearchParams(asked);
		if (row.whose) query.set("whose", row.whose);
		if (row.filter) query.set("f", [query.get("f"), row.filter].filter(Boolean).join(";"));
		return `${path}?${query}`;
	};
	return (
		<section className={`panel p-0 groups ${waiting ? "waiting" : ""}`} aria-label="By person or group" aria-busy={waiting}>
			<div className="groups-head">
				<h3 className="mb-0">
					By{" "}
					<Form.Select
						size="sm"
						className="d-inline-block w-auto no-print"
						aria-label="Group the period by"
						value={view.by}
						onChange={(event) => void set({ by: event.target.value === "rep" ? null : event.target.value })}
					>
						{GROUPINGS.map(({ key, words }) => (
							<option key={key} value={key}>
								{words}
							</option>
						))}
					</Form.Select>
					<span className="print-only">{GROUPINGS.find(({ key }) => key === view.by)?.words}</span>
				</h3>
				<span className="second small-text">won, commit, best case, pipeline against the target, on one scale</span>
			</div>
			<Scrolls of="Groups" className="groups-scroll">
				<table className="table mb-0">
					<thead>
						<tr>
							<th>Name</th>
							<th className="groups-beam">Beam</th>
							{COLUMNS.map((one) => (
								<th key={one.key} className="num" aria-sort={one.key === sorted ? (down ? "descending" : "ascending") : undefined}>
									<button type="button" className="plain-button" onClick={() => turn(one.key)}>
										{one.words}
										{one.key === sorted ? (down ? " ↓" : " ↑") : ""}
									</button>
								</th>
							))}
						</tr>
					</thead>
					<tbody>
						{rows.map((row) => (
							<tr key={row.key}>
								<th scope="row">
									{row.whose ? (
										<Link href={opens.address("/period", { whose: row.whose })}>{row.name}</Link>
									) : row.filter ? (
										<Link href={whereTo(row, "open")}>{row.name}</Link>
									) : (
										row.name
									)}
								</th>
								<td className="groups-beam">
									<Bar figures={row.figures} scale={scale} currency={view.currency} small />
								</td>
								{COLUMNS.map((one) => {
									const value = one.of(row);
									const words = figureWords(value, one.unit, view.currency);
									return (
										<td key={one.key} className="num">
											{value !== null && (figureOf(one.opens)?.opens || row.whose) ? <Link href={whereTo(row, one.opens)}>{words}</Link> : words}
										</td>
									);
								})}
							</tr>
						))}
						{!rows.length && (
							<tr>
								<td colSpan={COLUMNS.length + 2} className="second">
									None of these people has a deal in this period, or a target for it.
								</td>
							</tr>
						)}
					</tbody>
				</table>
			</Scrolls>
		</section>
	);
}
