"use client";
import Link from "next/link";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { plural } from "@/core/words/grammar";
import { shortMoney } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import { FormDialog } from "@/ui/parts/FormDialog";
import type { TableColumn } from "@/ui/parts/table/column";
import { DataTable } from "@/ui/parts/table/DataTable";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { TerritoriesView, TerritoryRow } from "../server/readTerritories";
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
			{moved && view.owners && <Move row={moved} owners={view.owners} close={() => setMoved(null)} />}
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

/** Which accounts of a territory go to whom: said before it is done, undone with one press. */
function Move({ row, owners, close }: { row: TerritoryRow; owners: NonNullable<TerritoriesView["owners"]>; close: () => void }) {
	const [ownerId, setOwnerId] = useState("");
	const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
	const run = useRun();
	const act = useAct();
	const going = row.list.filter((one) => one.ownerId !== ownerId && !left.has(one.id));
	const name = owners.find(({ id }) => id === ownerId)?.name ?? "";
	const give = async () => {
		const to = going.map(({ id }) => ({ id, ownerId }));
		const done = await act(run("accounts.give", { to }), `${plural(to.length, "account")} given to ${name}.`, ({ before }) =>
			run("accounts.give", { to: before }),
		);
		if (done) close();
	};
	return (
		<FormDialog
			title={`Give accounts of ${row.territory || "no territory"}`}
			label="Give"
			onSave={() => void give()}
			onClose={close}
			not={!ownerId || !going.length}
			bodyClass="d-grid gap-3"
		>
			<Form.Group controlId="territory-owner">
				<Form.Label>To</Form.Label>
				<Form.Select value={ownerId} onChange={({ target }) => setOwnerId(target.value)}>
					<option value="">Choose somebody …</option>
					{owners.map((one) => (
						<option key={one.id} value={one.id}>
							{one.name}
						</option>
					))}
				</Form.Select>
			</Form.Group>
			<div className="territory-list">
				{row.list.map((one) => (
					<Form.Check
						key={one.id}
						id={`give-${one.id}`}
						label={`${one.name}, ${one.owner}`}
						checked={!left.has(one.id)}
						onChange={({ target }) => setLeft(new Set(target.checked ? [...left].filter((id) => id !== one.id) : [...left, one.id]))}
					/>
				))}
			</div>
			{ownerId && (
				<p className="mb-0">
					{plural(going.length, "account moves", "accounts move")} to {name}; open deals stay with their owners.
				</p>
			)}
		</FormDialog>
	);
}
