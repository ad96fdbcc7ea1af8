"use client";
import Link from "next/link";
import { parseAsString, useQueryStates } from "nuqs";
import { useState, useTransition } from "react";
import { Button, Form } from "react-bootstrap";
import type { Care } from "@/core/accounts/care";
import { byCount, plural } from "@/core/words/grammar";
import { currencySign, nearDate, wholeAmount } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import { MoreRows } from "@/ui/parts/MoreRows";
import type { TableColumn } from "@/ui/parts/table/column";
import { DataTable } from "@/ui/parts/table/DataTable";
import type { CareRow, CareView } from "../server/readCare";
import { GiveAtSlot } from "./slots";
import "@/ui/parts/parts.css";
import "@/features/deals/ui/deals.css";
import "./accounts.css";
import "./activities.css";

const WHY: readonly (readonly [Care, string])[] = [
	["new", "new"],
	["risk", "at risk"],
	["silent", "silent"],
	["lost", "worth a second visit"],
];

/** Accounts without a deal that are worth a look: why, with the figures; marked ones are given a kit at once. */
export function CareScreen({ view }: { view: CareView }) {
	const [marked, setMarked] = useState<ReadonlySet<string>>(new Set());
	const [giving, setGiving] = useState<readonly CareRow[] | null>(null);
	const chosen = view.rows.filter(({ id }) => marked.has(id));
	const toggle = (id: string, on: boolean) => setMarked(new Set(on ? [...marked, id] : [...marked].filter((one) => one !== id)));
	const { silent, risk } = view.counts;
	return (
		<div className="care">
			<h2>
				{plural(view.count, "account")} without a deal {byCount(view.count, "is", "are")} worth a look: {silent} silent, {risk} at risk
			</h2>
			<Filters view={view} />
			{view.mayGive && (
				<div className="d-flex gap-3 align-items-center mb-2 no-print">
					<Button size="sm" disabled={!chosen.length} onClick={() => setGiving(chosen)}>
						Give a kit or task
					</Button>
					<span className="small-text second" aria-live="polite">
						{chosen.length ? `${plural(chosen.length, "account")} selected` : "Select accounts to give each its kit."}
					</span>
				</div>
			)}
			<DataTable
				of="Accounts without a deal"
				className="panel p-0 accounts-scroll"
				tableClass="accounts-table"
				rows={view.rows}
				rowKey={({ id }) => id}
				columns={columnsOf(view, marked, toggle)}
				empty={
					<div className="panel empty">
						<h2>Nobody to look after here</h2>
						<p>Clear the filters, or choose other people in the sentence above.</p>
					</div>
				}
			/>
			<MoreRows shown={view.rows.length} count={view.count} order="those that bought most first" />
			{giving && (
				<GiveAtSlot
					accounts={giving}
					onClose={(done) => {
						setGiving(null);
						if (done) setMarked(new Set());
					}}
				/>
			)}
		</div>
	);
}

function Filters({ view: { counts, why, choices } }: { view: CareView }) {
	const [waiting, start] = useTransition();
	const [state, set] = useQueryStates(
		{ why: parseAsString, kind: parseAsString, territory: parseAsString, owner: parseAsString, limit: parseAsString },
		{ shallow: false, scroll: false, history: "replace", startTransition: start },
	);
	const choose = (name: "kind" | "territory" | "owner", all: string, list: readonly string[]) => (
		<Form.Select size="sm" aria-label={name} value={state[name] ?? ""} onChange={({ target }) => void set({ [name]: target.value || null, limit: null })}>
			<option value="">{all}</option>
			{list.map((one) => (
				<option key={one}>{one}</option>
			))}
		</Form.Select>
	);
	return (
		<div className="activities-filters no-print" aria-busy={waiting}>
			<div className="flag-toggles" role="group" aria-label="Why">
				{WHY.map(([key, label]) => (
					<button
						key={key}
						type="button"
						className="flag-toggle"
						aria-pressed={why === key}
						onClick={() => void set({ why: why === key ? null : key, limit: null })}
					>
						<b>{counts[key]}</b> {label}
					</button>
				))}
			</div>
			{choose("kind", "all kinds", choices.kinds)}
			{choose("territory", "all territories", choices.territories)}
			{choose("owner", "all owners", choices.owners)}
		</div>
	);
}

/** What of section 14 says that it is at risk. */
function riskWords(trend: number | null): string {
	if (trend === 0) return "bought nothing in 365 days";
	return trend !== null && trend < 1 ? `bought ${Math.round(trend * 100)}% of the year before` : "bought, and wasn’t spoken to for longer than the last band";
}

/** Why an account is here, with what says so. */
function reasons(row: CareRow, seen: string): string[] {
	const { why, first, bought, since, rhythm, lost } = row;
	const words: Record<Care, string> = {
		new: first ? `first bought on ${nearDate(first, seen)}` : "",
		risk: riskWords(bought.trend),
		silent: since === null ? `no contact in 365 days; ${rhythm} are set` : `no contact for ${plural(since, "day")}; ${rhythm} are set`,
		lost: lost ? `${lost.name} was lost: ${lost.reason}; ${lost.back <= seen ? "due since" : "due on"} ${nearDate(lost.back, seen)}` : "",
	};
	return why.map((one) => words[one]);
}

function columnsOf(view: CareView, marked: ReadonlySet<string>, toggle: (id: string, on: boolean) => void): TableColumn<CareRow>[] {
	const { currency, seen, mayGive } = view;
	const amount = (value: number) => (value ? wholeAmount(value, currency) : <span className="third">–</span>);
	return [
		{
			key: "account",
			label: "Account",
			by: ({ name }) => name,
			cell: (row) => <Name row={row} mark={mayGive ? { on: marked.has(row.id), set: (on) => toggle(row.id, on) } : null} />,
		},
		{
			key: "why",
			label: "Why",
			cell: (row) => (
				<>
					{reasons(row, seen).map((words, i) => (
						<span key={words} className="d-block">
							<b>{WHY.find(([key]) => key === row.why[i])?.[1]}</b> <span className="small-text second">{words}</span>
						</span>
					))}
				</>
			),
		},
		{
			key: "last",
			label: "Last contact",
			by: ({ lastContact }) => lastContact,
			cell: ({ lastContact }) => (lastContact ? nearDate(lastContact, seen) : <span className="worse">not in 365 days</span>),
		},
		{
			key: "bought",
			label: `365 days ${currencySign(currency).trim()}`,
			num: true,
			by: ({ bought }) => bought.last365,
			cell: ({ bought }) => amount(bought.last365),
		},
		{ key: "before", label: "365 before", num: true, by: ({ bought }) => bought.before365, cell: ({ bought }) => amount(bought.before365) },
		{
			key: "task",
			label: "Next task",
			by: ({ task }) => task?.due ?? null,
			cell: ({ task }) =>
				task ? (
					<>
						{task.title}
						<span className="d-block tiny second">
							{task.due ? nearDate(task.due, seen) : "no date"}
							{task.more > 0 && `, ${task.more} more`}
						</span>
					</>
				) : (
					<span className="third">none</span>
				),
		},
	];
}

function Name({ row, mark }: { row: CareRow; mark: { on: boolean; set: (on: boolean) => void } | null }) {
	const address = useAddress();
	return (
		<span className="d-flex gap-2">
			{mark && <Form.Check aria-label={`Select ${row.name}`} checked={mark.on} onChange={({ target }) => mark.set(target.checked)} />}
			<span>
				<Link href={address(`/accounts/${encodeURIComponent(row.id)}`)}>
					<b>{row.name}</b>
				</Link>
				<span className="d-block tiny second">{[row.kind, row.industry, row.territory, row.owner].filter(Boolean).join(" · ")}</span>
			</span>
		</span>
	);
}
