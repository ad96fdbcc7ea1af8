"use client";
import { useState } from "react";
import { Form } from "react-bootstrap";
import { spreadOver } from "@/core/accounts/spread";
import { listed, plural } from "@/core/words/grammar";
import { FormDialog } from "@/ui/parts/FormDialog";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { TerritoriesView, TerritoryRow } from "../server/readTerritories";

interface Props {
	readonly row: TerritoryRow;
	readonly owners: NonNullable<TerritoriesView["owners"]>;
	readonly close: () => void;
}

const RULES = [
	{ key: "all", label: "all of them" },
	{ key: "silent", label: "those that are silent" },
	{ key: "idle", label: "those without an open deal" },
	{ key: "gone", label: "those whose owner has left, or that have none" },
] as const;
type Rule = (typeof RULES)[number]["key"];

/** Which accounts of a territory go to whom, by a rule or one by one: said before it is done, undone with one press. */
export function MoveAccounts({ row, owners, close }: Props) {
	// Long: one form, its fields in their order.
	const [to, setTo] = useState<readonly string[]>([]);
	const [rule, setRule] = useState<Rule>("all");
	const [kind, setKind] = useState("");
	const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
	const run = useRun();
	const act = useAct();
	const known = new Set(owners.map(({ id }) => id));
	const fits = (one: TerritoryRow["list"][number]) =>
		(!kind || one.kind === kind) &&
		(rule === "all" || (rule === "silent" ? one.silent : rule === "idle" ? one.openCount === 0 : one.ownerId === null || !known.has(one.ownerId)));
	const list = row.list.filter(fits);
	const going = list.filter((one) => one.mine && !left.has(one.id) && !(to.length === 1 && one.ownerId === to[0]));
	const given = spreadOver(
		going.map(({ id, open }) => ({ id, worth: open })),
		to,
	);
	const nameOf = (id: string) => owners.find((one) => one.id === id)?.name ?? "";
	const shares = to.map((id) => `${nameOf(id)} ${[...given.values()].filter((one) => one === id).length}`);
	const give = async () => {
		const moves = [...given].map(([id, ownerId]) => ({ id, ownerId }));
		const done = await act(run("accounts.give", { to: moves }), `${plural(moves.length, "account")} given to ${listed(to.map(nameOf))}.`, ({ before }) =>
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
			not={!to.length || !going.length}
			bodyClass="d-grid gap-3"
		>
			<div className="d-flex gap-2">
				<Form.Select size="sm" aria-label="Rule" value={rule} onChange={({ target }) => setRule(target.value as Rule)}>
					{RULES.map(({ key, label }) => (
						<option key={key} value={key}>
							{label}
						</option>
					))}
				</Form.Select>
				<Form.Select size="sm" aria-label="Kind of account" value={kind} onChange={({ target }) => setKind(target.value)}>
					<option value="">all kinds</option>
					{[...new Set(row.list.flatMap((one) => one.kind ?? []))].sort().map((one) => (
						<option key={one}>{one}</option>
					))}
				</Form.Select>
			</div>
			<fieldset className="territory-list">
				<legend className="small-text second">{plural(list.length, "account")}</legend>
				{list.map((one) => (
					<Form.Check
						key={one.id}
						id={`give-${one.id}`}
						label={`${one.name}, ${one.owner}${one.mine ? "" : ", not one of your people"}`}
						disabled={!one.mine}
						checked={one.mine && !left.has(one.id)}
						onChange={({ target }) => setLeft(new Set(target.checked ? [...left].filter((id) => id !== one.id) : [...left, one.id]))}
					/>
				))}
			</fieldset>
			<fieldset className="territory-list">
				<legend className="small-text second">To one, or shared among several so that each gets about as much that is open</legend>
				{owners.map(({ id, name }) => (
					<Form.Check
						key={id}
						id={`to-${id}`}
						label={name}
						checked={to.includes(id)}
						onChange={({ target }) => setTo(target.checked ? [...to, id] : to.filter((one) => one !== id))}
					/>
				))}
			</fieldset>
			{to.length > 0 && (
				<p className="mb-0" aria-live="polite">
					{plural(given.size, "account moves", "accounts move")}: {shares.join(", ")}. Open deals stay with their owners; those concerned are told.
				</p>
			)}
		</FormDialog>
	);
}
