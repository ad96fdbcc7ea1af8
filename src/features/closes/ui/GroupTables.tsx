"use client";
import { useState } from "react";
import { Form } from "react-bootstrap";
import type { CloseAccount, CloseGroup, CloseRep } from "@/core/period/closeAccount";
import { plural } from "@/core/words/grammar";
import { money, shortMoney } from "@/ui/format";
import { DataTable } from "@/ui/parts/table/DataTable";
import type { CloseView } from "../server/readClose";

const BY = [
	{ key: "reps", label: "rep" },
	{ key: "teams", label: "team" },
	{ key: "families", label: "product family" },
] as const;

/** The result by rep, team or family, each against its target. */
export function GroupTables({ view: { account } }: { view: CloseView }) {
	const [by, setBy] = useState<By>("reps");
	const amount = (key: "won" | "lost" | "open", label: string) => ({
		key,
		label,
		num: true,
		by: (row: CloseGroup) => row[key].amount,
		cell: (row: CloseGroup) => (
			<span title={money(row[key].amount, account.currency)}>
				{row[key].count ? shortMoney(row[key].amount, account.currency) : "–"}
				{row[key].count > 0 && <span className="second d-block tiny">{plural(row[key].count, "deal")}</span>}
			</span>
		),
	});
	return (
		<section className="panel p-0" aria-label="Result by group">
			<ByHead by={by} onBy={setBy} />
			<DataTable
				of="Result by group"
				tableClass="mb-0"
				rows={account[by]}
				rowKey={({ key }) => key}
				empty={<p className="second px-3">Nothing was won, lost or left open, and nobody had a target.</p>}
				columns={[
					{ key: "name", label: "Name", names: true, by: ({ name }) => name, cell: ({ name }) => name },
					{
						key: "target",
						label: "Target",
						num: true,
						by: ({ target }) => target,
						cell: ({ target }) => (target === null ? "–" : shortMoney(target, account.currency)),
					},
					amount("won", "Won"),
					{
						key: "share",
						label: "Of target",
						num: true,
						by: ({ won, target }) => (target ? won.amount / target : null),
						cell: ({ won, target }) => (target ? `${Math.round((100 * won.amount) / target)}%` : "–"),
					},
					amount("lost", "Lost"),
					amount("open", "Undecided"),
				]}
			/>
		</section>
	);
}

type By = (typeof BY)[number]["key"];

function ByHead({ by, onBy }: { by: By; onBy: (by: By) => void }) {
	return (
		<h3 className="close-by">
			Result by{" "}
			<Form.Select size="sm" className="d-inline-block w-auto" aria-label="Group the result by" value={by} onChange={({ target }) => onBy(target.value as By)}>
				{BY.map(({ key, label }) => (
					<option key={key} value={key}>
						{label}
					</option>
				))}
			</Form.Select>
		</h3>
	);
}

const of = (part: number, whole: number) => (whole ? `${part} of ${whole}` : "–");

/** What of each rep’s words and work came true, in counts. */
export function RepWords({ account }: { account: CloseAccount }) {
	return (
		<section className="panel p-0" aria-label="By rep">
			<h3 className="close-by">What reps said and did</h3>
			<DataTable
				of="What reps said and did"
				tableClass="mb-0"
				rows={account.words}
				rowKey={({ id }) => id}
				empty={<p className="second px-3">Nothing was in commit, called or pushed out, and no task had a flag to put out.</p>}
				columns={[
					{ key: "name", label: "Rep", names: true, by: ({ name }) => name, cell: ({ name }) => name },
					{ key: "commit", label: "In commit on day 1, won", num: true, by: ({ commit }) => commit.won, cell: ({ commit }) => of(commit.won, commit.of) },
					{ key: "calls", label: "Calls that held", num: true, by: ({ calls }) => calls.held, cell: ({ calls }) => of(calls.held, calls.of) },
					{ key: "pushed", label: "Pushed out", num: true, by: ({ pushed }) => pushed.n, cell: pushedWords },
					{ key: "flags", label: "Flags put out", num: true, by: ({ flags }) => flags.out, cell: ({ flags }) => of(flags.out, flags.of) },
				]}
			/>
		</section>
	);
}

const pushedWords = ({ pushed: { n, late } }: CloseRep) => (late ? `${n}, ${late === n ? "all" : late} in the last days` : n ? String(n) : "–");
