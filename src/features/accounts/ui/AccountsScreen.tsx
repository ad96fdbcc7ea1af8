"use client";
import Link from "next/link";
import { parseAsInteger, parseAsString, useQueryStates } from "nuqs";
import { useTransition } from "react";
import { Form } from "react-bootstrap";
import type { Light } from "@/core/attention/attention";
import { currencySign, fullAmount, grouped, nearDate, shortMoney, wholeAmount } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import { Lamp } from "@/ui/parts/Lamp";
import { MoreRows } from "@/ui/parts/MoreRows";
import type { AccountOrder, AccountRow, AccountsView } from "../server/readAccounts";
import { LostDeals } from "./LostDeals";
import { NewAccount } from "./NewAccount";
import "@/ui/parts/parts.css";
import "@/features/deals/ui/deals.css";
import "./accounts.css";
import { TableExport } from "@/ui/parts/ExportMenu";
import type { TableColumn } from "@/ui/parts/table/column";
import { DataTable } from "@/ui/parts/table/DataTable";
import { unpacking } from "@/ui/unpacking";

const WORDS: Readonly<Record<AccountOrder, string>> = {
	silent: "Longest without contact first",
	recent: "Most recently contacted first",
	open: "Most open first",
	bought: "Most bought this year first",
	name: "By name",
};

interface Props {
	readonly view: AccountsView;
	readonly seen: string;
	readonly mayAssign: boolean;
}

/** Who have we not spoken to? And which lost deals are worth a second visit? */
export function AccountsScreen({ view, seen, mayAssign }: Props) {
	const [waiting, start] = useTransition();
	const [state, set] = useQueryStates(
		{ band: parseAsInteger, order: parseAsString, text: parseAsString.withDefault(""), account: parseAsString, limit: parseAsString },
		{ shallow: false, scroll: false, history: "replace", throttleMs: 200, startTransition: start },
	);
	const look: Look = (change) => void set({ ...change, limit: null });
	const { silent, total } = view;
	return (
		<div className="accounts">
			<section>
				<div className="d-flex justify-content-between align-items-start gap-3">
					<h2>
						{silent.count
							? `${grouped(silent.count)} of ${grouped(total)} accounts had no contact for a quarter or more, or never${silent.open ? `, with ${shortMoney(silent.open, view.currency)} open` : ""}`
							: `All ${grouped(total)} accounts had contact within the quarter`}
					</h2>
					<div className="d-flex gap-2">
						<NewAccount />
						<TableExport table="accounts" />
					</div>
				</div>
				<Tools view={view} band={state.band} text={state.text} look={look} />
				{state.account && (
					<p className="small-text">
						Only one account is shown. <Link href="/accounts">Show all</Link>
					</p>
				)}
				<div className={waiting ? "waiting" : ""} aria-busy={waiting}>
					<DataTable
						of="Accounts"
						className="panel p-0 accounts-scroll"
						tableClass="accounts-table"
						rows={view.accounts}
						rowKey={({ id }) => id}
						columns={columnsOf(view, seen)}
						empty={
							<div className="panel empty">
								<h2>No accounts match</h2>
								<p>Clear the search or the band, or choose other people in the sentence above.</p>
							</div>
						}
					/>
					<MoreRows shown={view.accounts.length} count={view.count} order={WORDS[view.order]} />
				</div>
			</section>
			<LostDeals view={view} seen={seen} mayAssign={mayAssign} />
		</div>
	);
}

/** The same, of what the page packed. */
export const AccountsPacked = unpacking(AccountsScreen);

type Look = (change: { band?: number | null; order?: string | null; text?: string | null }) => void;

/** The bands of last contact to filter by, the order, and a search. */
function Tools({ view, band, text, look }: { view: AccountsView; band: number | null; text: string; look: Look }) {
	return (
		<div className="accounts-tools no-print">
			<div className="flag-toggles" role="group" aria-label="Last contact">
				{view.bands.map(({ label, count }, i) => (
					<button key={label} type="button" className="flag-toggle" aria-pressed={band === i} onClick={() => look({ band: band === i ? null : i })}>
						<b>{grouped(count)}</b> {label}
					</button>
				))}
			</div>
			<div className="d-flex gap-2">
				<Form.Select
					size="sm"
					aria-label="Order"
					value={view.order}
					onChange={(event) => look({ order: event.target.value === "silent" ? null : event.target.value })}
				>
					{Object.entries(WORDS).map(([key, words]) => (
						<option key={key} value={key}>
							{words}
						</option>
					))}
				</Form.Select>
				<Form.Control
					size="sm"
					type="search"
					placeholder="Find an account"
					aria-label="Find an account"
					value={text}
					onChange={(event) => look({ text: event.target.value || null })}
				/>
			</div>
		</div>
	);
}

/** The columns of the list; its order is the chooser’s, over all accounts and not only those that are shown. */
function columnsOf({ currency, years }: AccountsView, seen: string): TableColumn<AccountRow>[] {
	const amount = (value: number) =>
		value ? <span title={fullAmount(value, currency)}>{wholeAmount(value, currency)}</span> : <span className="third">–</span>;
	return [
		{
			key: "account",
			label: "Account",
			cell: (row) => (
				<>
					<AccountLink id={row.id} name={row.name} />
					<span className="d-block tiny second">{[row.kind, row.industry, row.territory, row.owner].filter(Boolean).join(" · ")}</span>
				</>
			),
		},
		{ key: "last", label: "Last contact", cell: (row) => <LastContact row={row} seen={seen} /> },
		{
			key: "deals",
			label: "Open deals",
			cell: (row) => (
				<>
					{row.open.map((deal) => (
						<span key={deal.id} className="d-block text-truncate" title={deal.name}>
							<Lamp level={deal.level as Light} size={15} /> <Link href={`/deals/${encodeURIComponent(deal.id)}`}>{deal.name}</Link>
						</span>
					))}
					{row.openCount > row.open.length && <span className="tiny second">and {row.openCount - row.open.length} more</span>}
					{!row.openCount && <span className="third">none</span>}
				</>
			),
		},
		{ key: "open", label: `Open ${currencySign(currency).trim()}`, num: true, cell: (row) => amount(row.openAmount) },
		{ key: "bought", label: `Bought ${years[0]}`, num: true, cell: (row) => amount(row.thisYear) },
		{ key: "before", label: String(years[1]), num: true, cell: (row) => amount(row.lastYear) },
	];
}

function AccountLink({ id, name }: { id: string; name: string }) {
	const address = useAddress();
	return (
		<Link href={address(`/accounts/${encodeURIComponent(id)}`)}>
			<b>{name}</b>
		</Link>
	);
}

function LastContact({ row, seen }: { row: AccountRow; seen: string }) {
	if (!row.lastTouch) return <span className="worse">not in 365 days</span>;
	return (
		<>
			{nearDate(row.lastTouch, seen)}
			<span className="d-block tiny second">
				{row.lastKind}
				{row.lastWith && ` with ${row.lastWith}`}
			</span>
		</>
	);
}
