"use client";
import Link from "next/link";
import { useState } from "react";
import { Button } from "react-bootstrap";
import { plural } from "@/core/words/grammar";
import { shortMoney } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import type { TableColumn } from "@/ui/parts/table/column";
import { DataTable } from "@/ui/parts/table/DataTable";
import type { TerritoriesView, TerritoryRow } from "../server/readTerritories";
import { MoveAccounts } from "./MoveAccounts";
import "@/ui/parts/parts.css";
import "./account.css";

/** Accounts by territory; all or some of one’s accounts are given to another. */
export function TerritoriesScreen({ view }: { view: TerritoriesView }) {
	const address = useAddress();
	const [moved, setMoved] = useState<TerritoryRow | null>(null);
	const silent = view.rows.reduce((sum, row) => sum + row.silent, 0);
	const all = view.rows.reduce((sum, row) => sum + row.accounts, 0);
	return (
		<div>
			<h2>
				{plural(all, "account")} in {plural(view.rows.filter(({ territory }) => territory).length, "territory", "territories")}; {silent} silent
			</h2>
			<DataTable
				of="Territories"
				className="panel p-0"
				tableClass="territories-table"
				rows={view.rows}
				rowKey={({ territory }) => territory}
				columns={columnsOf(view, (text) => address("/accounts", { text }), setMoved)}
				empty={<p className="second">These people have no accounts.</p>}
			/>
			{moved && view.owners && <MoveAccounts row={moved} owners={view.owners} close={() => setMoved(null)} />}
		</div>
	);
}

function columnsOf(view: TerritoriesView, href: (text: string) => string, move: (row: TerritoryRow) => void): TableColumn<TerritoryRow>[] {
	const money = (value: number) => (value ? shortMoney(value, view.currency) : <span className="third">–</span>);
	return [
		{
			key: "territory",
			label: "Territory",
			cell: ({ territory }) => (territory ? <Link href={href(territory)}>{territory}</Link> : <span className="second">none</span>),
			by: ({ territory }) => territory || null,
		},
		{ key: "accounts", label: "Accounts", num: true, cell: ({ accounts }) => accounts, by: ({ accounts }) => accounts },
		{ key: "silent", label: "Silent", num: true, cell: ({ silent }) => (silent ? <span className="worse">{silent}</span> : 0), by: ({ silent }) => silent },
		{ key: "risk", label: "At risk", num: true, cell: ({ atRisk }) => atRisk, by: ({ atRisk }) => atRisk },
		{ key: "deals", label: "Open deals", num: true, cell: ({ openCount }) => openCount, by: ({ openCount }) => openCount },
		{ key: "open", label: "Open", num: true, cell: ({ open }) => money(open), by: ({ open }) => open },
		{ key: "won", label: view.period ? `Won ${view.period}` : "Won", num: true, cell: ({ won }) => money(won), by: ({ won }) => won },
		{ key: "owners", label: "Owners", cell: ({ owners }) => <span className="second">{owners.map(({ name, count }) => `${name} ${count}`).join(", ")}</span> },
		...(view.owners
			? [
					{
						key: "move",
						label: "Give to another",
						silent: true,
						cell: (row: TerritoryRow) => (
							<Button
								size="sm"
								variant="link"
								className="text-nowrap no-print"
								aria-label={`Give accounts of ${row.territory || "no territory"} to another`}
								onClick={() => move(row)}
							>
								Give …
							</Button>
						),
					},
				]
			: []),
	];
}
