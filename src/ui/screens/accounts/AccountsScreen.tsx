"use client";
import Link from "next/link";
import { parseAsInteger, parseAsString, parseAsStringLiteral, useQueryState } from "nuqs";
import { useMemo, useState } from "react";
import { Form } from "react-bootstrap";
import type { Light } from "@/core/attention/attention";
import type { AccountRow, AccountsView } from "@/usecases/readAccounts";
import { currencySign, nearDate, shortMoney, wholeAmount } from "../../format";
import { Lamp } from "../../parts/Lamp";
import { LostDeals } from "./LostDeals";
import "../../parts/parts.css";
import "../deals/deals.css";
import "./accounts.css";

const ORDERS = ["silent", "recent", "open", "bought", "name"] as const;
const WORDS: Record<(typeof ORDERS)[number], string> = {
	silent: "longest silent first",
	recent: "most recently contacted first",
	open: "most open first",
	bought: "most bought this year first",
	name: "by name",
};
const SHOWN = 100;

interface Props {
	readonly view: AccountsView;
	readonly seen: string;
	readonly mayAssign: boolean;
}

/** Who have we not spoken to? And which lost deals are worth a second visit? */
export function AccountsScreen({ view, seen, mayAssign }: Props) {
	const [band, setBand] = useQueryState("band", parseAsInteger);
	const [order, setOrder] = useQueryState("order", parseAsStringLiteral(ORDERS).withDefault("silent"));
	const [text, setText] = useQueryState("text", parseAsString.withDefault(""));
	const [account] = useQueryState("account", parseAsString);
	const [all, setAll] = useState(false);
	const counts = view.bands.map((_, i) => view.accounts.filter((row) => row.band === i).length);
	const rows = useMemo(() => {
		const words = text.trim().toLowerCase();
		const found = view.accounts.filter(
			(row) =>
				(account ? row.id === account : true) &&
				(band === null || row.band === band) &&
				(!words || `${row.name} ${row.owner} ${row.territory ?? ""} ${row.industry ?? ""} ${row.kind ?? ""}`.toLowerCase().includes(words)),
		);
		return [...found].sort(compare(order));
	}, [view.accounts, band, order, text, account]);
	const silent = view.accounts.filter((row) => row.band >= view.bands.length - 2);
	const silentOpen = silent.reduce((sum, row) => sum + row.openAmount, 0);
	const shown = all ? rows : rows.slice(0, SHOWN);

	return (
		<div className="accounts">
			<section>
				<h2>
					{silent.length
						? `${silent.length} of ${view.accounts.length} accounts were not spoken to for a quarter or ever${silentOpen ? `, with ${shortMoney(silentOpen, view.currency)} open` : ""}`
						: `All ${view.accounts.length} accounts were spoken to within the quarter`}
				</h2>
				<div className="accounts-tools no-print">
					<div className="flag-toggles" role="group" aria-label="Last contact">
						{view.bands.map((words, i) => (
							<button key={words} type="button" className="flag-toggle" aria-pressed={band === i} onClick={() => void setBand(band === i ? null : i)}>
								<b>{counts[i]}</b> {words}
							</button>
						))}
					</div>
					<div className="d-flex gap-2">
						<Form.Select size="sm" aria-label="Order" value={order} onChange={(event) => void setOrder(event.target.value as (typeof ORDERS)[number])}>
							{ORDERS.map((key) => (
								<option key={key} value={key}>
									{WORDS[key]}
								</option>
							))}
						</Form.Select>
						<Form.Control
							size="sm"
							type="search"
							placeholder="Find an account"
							aria-label="Find an account"
							value={text}
							onChange={(event) => void setText(event.target.value || null)}
						/>
					</div>
				</div>
				{account && (
					<p className="small-text">
						Only one account is shown. <Link href="/accounts">Show all</Link>
					</p>
				)}
				{rows.length ? (
					<div className="panel p-0 accounts-scroll">
						<table className="table accounts-table">
							<thead>
								<tr>
									<th>Account</th>
									<th>Last contact</th>
									<th>Open deals</th>
									<th className="num">Open {currencySign(view.currency).trim()}</th>
									<th className="num">Bought {view.years[0]}</th>
									<th className="num">{view.years[1]}</th>
								</tr>
							</thead>
							<tbody>
								{shown.map((row) => (
									<Line key={row.id} row={row} seen={seen} currency={view.currency} />
								))}
							</tbody>
						</table>
					</div>
				) : (
					<div className="panel empty">
						<h2>No account fits</h2>
						<p>Take out the words or the band, or choose other people in the sentence above.</p>
					</div>
				)}
				{rows.length > shown.length && (
					<button type="button" className="plain-button small-text second mt-2" onClick={() => setAll(true)}>
						Show {rows.length - shown.length} more
					</button>
				)}
			</section>
			<LostDeals view={view} seen={seen} mayAssign={mayAssign} />
		</div>
	);
}

function compare(order: (typeof ORDERS)[number]): (a: AccountRow, b: AccountRow) => number {
	const id = (a: AccountRow, b: AccountRow) => (a.id < b.id ? -1 : 1);
	const last = (row: AccountRow) => row.lastTouch ?? "";
	switch (order) {
		case "silent":
			return (a, b) => last(a).localeCompare(last(b)) || b.openAmount - a.openAmount || id(a, b);
		case "recent":
			return (a, b) => last(b).localeCompare(last(a)) || id(a, b);
		case "open":
			return (a, b) => b.openAmount - a.openAmount || id(a, b);
		case "bought":
			return (a, b) => b.thisYear - a.thisYear || id(a, b);
		case "name":
			return (a, b) => a.name.localeCompare(b.name, "en") || id(a, b);
	}
}

function Line({ row, seen, currency }: { row: AccountRow; seen: string; currency: string }) {
	const amount = (value: number) => (value ? wholeAmount(value, currency) : <span className="third">–</span>);
	return (
		<tr>
			<td>
				<b>{row.name}</b>
				<span className="d-block tiny second">{[row.kind, row.industry, row.territory, row.owner].filter(Boolean).join(" · ")}</span>
			</td>
			<td>
				{row.lastTouch ? (
					<>
						{nearDate(row.lastTouch, seen)}
						<span className="d-block tiny second">
							{row.lastKind}
							{row.lastWith && ` with ${row.lastWith}`}
						</span>
					</>
				) : (
					<span className="worse">never</span>
				)}
			</td>
			<td>
				{row.open.slice(0, 3).map((deal) => (
					<span key={deal.id} className="d-block text-truncate">
						<Lamp level={deal.level as Light} size={15} /> <Link href={`/deals/${encodeURIComponent(deal.id)}`}>{deal.name}</Link>
					</span>
				))}
				{row.open.length > 3 && <span className="tiny second">and {row.open.length - 3} more</span>}
				{!row.open.length && <span className="third">none</span>}
			</td>
			<td className="num">{amount(row.openAmount)}</td>
			<td className="num">{amount(row.thisYear)}</td>
			<td className="num">{amount(row.lastYear)}</td>
		</tr>
	);
}
