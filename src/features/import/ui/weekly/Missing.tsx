"use client";
import Link from "next/link";
import { Button } from "react-bootstrap";
import { formatDay } from "@/core/time/day";
import { plural } from "@/core/words/grammar";
import { dayNumber, longDate, money } from "@/ui/format";
import { DataTable } from "@/ui/parts/table/DataTable";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { MissingDeal, WeeklyList } from "../../server/weekly/missing";

const CHOICES = [
	{ key: "won", words: "Won", done: "won" },
	{ key: "lost", words: "Lost", done: "lost" },
	{ key: "removed", words: "Removed", done: "removed" },
	{ key: "open", words: "Still open", done: "still open, just left out" },
] as const;
type Decision = (typeof CHOICES)[number]["key"];

/** Deals that a file no longer has: never guessed, decided one by one or all at once, and decided anew when it was wrong. */
export function Missing({ list }: { list: WeeklyList }) {
	const decide = useDecide();
	const waiting = list.missing.filter((deal) => deal.decision === null);
	const decided = list.missing.filter((deal) => deal.decision !== null);
	if (!list.missing.length) return null;
	return (
		<section className="panel setup-wide" aria-label="Missing deals">
			<h2>{list.waiting ? `${plural(list.waiting, "deal is", "deals are")} missing: what happened to them?` : "No deals wait for a decision"}</h2>
			{waiting.length < list.waiting && (
				<p className="second small-text mb-1">These are the first {waiting.length}; more follow as you decide. A choice for all applies to these.</p>
			)}
			{waiting.length > 1 && (
				<div className="mb-2">
					<Decide deals={waiting} all decide={decide} />
				</div>
			)}
			<DataTable
				of="Missing deals"
				className=""
				tableClass="small-text"
				rows={[...waiting, ...decided]}
				rowKey={({ fileId, id }) => `${fileId} ${id}`}
				columns={[
					{
						key: "deal",
						label: "Deal",
						by: ({ name }) => name,
						cell: ({ id, name, account, decision, day }) => (
							<>
								<Link href={`/deals/${encodeURIComponent(id)}${decision === "removed" ? `?seen=${formatDay(dayNumber(day) - 1)}` : ""}`}>
									<b>{name}</b>
								</Link>{" "}
								<span className="second">{account}</span>
							</>
						),
					},
					{ key: "rep", label: "Rep", by: ({ owner }) => owner, cell: ({ owner }) => owner },
					{ key: "stage", label: "Was in", by: ({ stage }) => stage, cell: ({ stage }) => stage },
					{ key: "amount", label: "Amount", num: true, by: ({ amount }) => amount, cell: ({ amount }) => money(amount, list.currency) },
					{ key: "day", label: "Missing from the file of", by: ({ day }) => day, cell: ({ day }) => longDate(day) },
					{
						key: "decision",
						label: "What happened to it",
						cell: (deal) =>
							deal.decision === null ? (
								<Decide deals={[deal]} decide={decide} />
							) : (
								<>
									{CHOICES.find((choice) => choice.key === deal.decision)?.done}{" "}
									<Button size="sm" variant="link" className="p-0 align-baseline" onClick={() => void decide([deal], null)}>
										Decide again
									</Button>
								</>
							),
					},
				]}
			/>
		</section>
	);
}

/** Decides what happened to deals; undone, they are as they were. */
function useDecide() {
	const run = useRun();
	const act = useAct();
	return (deals: readonly MissingDeal[], decision: Decision | null) => {
		const targets = deals.map(({ id, fileId }) => ({ id, fileId }));
		const words = deals.length === 1 ? (deals[0]?.name ?? "") : `${deals.length} deals`;
		const done = CHOICES.find((choice) => choice.key === decision)?.done ?? "waiting for a decision again";
		const before = deals[0]?.decision ?? null;
		return act(run("import.decideMissing", { deals: targets, decision }), `${words}: ${done}.`, () =>
			run("import.decideMissing", { deals: targets, decision: before }),
		);
	};
}

interface DecideProps {
	readonly deals: readonly MissingDeal[];
	/** the buttons say that they are for all */
	readonly all?: boolean;
	readonly decide: ReturnType<typeof useDecide>;
}

const Decide = ({ deals, all = false, decide }: DecideProps) => (
	<div className="d-flex gap-1 flex-wrap">
		{CHOICES.map(({ key, words }) => (
			<Button key={key} size="sm" variant="outline-primary" onClick={() => void decide(deals, key)}>
				{all ? `All ${words.toLowerCase()}` : words}
			</Button>
		))}
	</div>
);
