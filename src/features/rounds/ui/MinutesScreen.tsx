"use client";
import Link from "next/link";
import { Button } from "react-bootstrap";
import { FATES } from "@/core/rounds/promise";
import { byCount, plural } from "@/core/words/grammar";
import { longDate, money, shortDate, shortMoney, spaced } from "@/ui/format";
import { useNotice } from "@/ui/Notices";
import { DataTable } from "@/ui/parts/table/DataTable";
import { dealColumn } from "@/ui/parts/table/dealColumn";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { MinutesView } from "../server/minutesView";
import { fateWords, minutesMarkdown, tasksHeading, totalsHeading } from "../table/markdown";
import "@/features/sheet/ui/sheet.css";
import { TableExport } from "@/ui/parts/ExportMenu";
import "./rounds.css";

/** The minutes of a round: what was called, changed and promised, and what the period comes to before and after. */
export function MinutesScreen({ view, mayHold }: { view: MinutesView; mayHold: boolean }) {
	const { currency, before, after } = view;
	const called = view.deals.length - view.uncalled;
	const kept = FATES.filter((fate) => view.kept[fate] > 0).map((fate) => `${view.kept[fate]} ${fateWords(fate, view.kind)}`);
	const walk = view.kind === "walk";
	const changed = view.deals.reduce((sum, { changes }) => sum + changes.length, 0);
	return (
		<div className="minutes">
			<div className="brief-head">
				<div>
					<p className="sheet-headline mb-1">{walk ? `${called} of ${plural(view.deals.length, "deal")} decided` : headline(view, called)}</p>
					<p className="second small-text mb-0">
						{longDate(view.on)}, held by {view.startedBy}.{view.ended ? "" : " It is still running."}
						{view.hidden > 0 && ` ${plural(view.hidden, "deal")} of others ${byCount(view.hidden, "isn’t", "aren’t")} shown.`}
						{kept.length > 0 && ` Of what was ${walk ? "given" : "promised"} before: ${kept.join(", ")}.`}
					</p>
				</div>
				<Tools view={view} mayHold={mayHold} />
			</div>
			{view.note && <p className="panel">{view.note}</p>}
			{!walk && view.partial && <p className="second small-text mb-1">{before && after ? `${totalsHeading(view)}:` : OTHERS}</p>}
			{!walk && before && after && (
				<div className="minutes-totals">
					<Total words="target" before={before.target} after={after.target} currency={currency} />
					<Total words="won" before={before.won} after={after.won} currency={currency} />
					<Total words="by the reps" before={before.byWord} after={after.byWord} currency={currency} />
					<Total words="by the calls" before={before.byCalls} after={after.byCalls} currency={currency} />
					<Total words="called shaky" before={before.shaky} after={after.shaky} currency={currency} />
				</div>
			)}
			<h2 className="mt-3">{walk ? "Decisions" : `Calls${changed ? `, and ${plural(changed, "change")}` : ""}`}</h2>
			<Deals view={view} />
			<h2 className="mt-3">{tasksHeading(view)}</h2>
			{view.promises.length > 0 && (
				<ul className="rows panel py-1">
					{view.promises.map(({ id, title, who, due, fate, dealId }) => (
						<li key={id}>
							<span>
								{dealId ? <Link href={`/deals/${encodeURIComponent(dealId)}?task=${encodeURIComponent(id)}`}>{title}</Link> : title}
								<span className="d-block tiny second">{view.deals.find((deal) => deal.id === dealId)?.name}</span>
							</span>
							<span className="text-end text-nowrap small-text">
								{who}, by {shortDate(due)}
								<span className={`d-block tiny ${fate === "not done" || fate === "late" ? "worse" : "second"}`}>{fateWords(fate, view.kind)}</span>
							</span>
						</li>
					))}
				</ul>
			)}
		</div>
	);
}

/** said where only the whole was kept */
const OTHERS = "What the period came to was kept for the whole team only, so it isn’t shown here.";

function headline({ before, after, currency, uncalled, deals }: MinutesView, called: number): string {
	const left = uncalled ? `${called} of ${plural(deals.length, "deal")} called` : `All ${plural(deals.length, "deal")} called`;
	if (!before || !after) return left;
	const moved = after.byCalls - after.byWord;
	if (!called) return `${left}: the reps’ figure is ${shortMoney(after.byWord, currency)}`;
	const against =
		moved === 0 ? "the calls agree with the reps" : `the calls are ${shortMoney(Math.abs(moved), currency)} ${moved < 0 ? "below" : "above"} the reps’ word`;
	const word = after.byWord === before.byWord ? "" : `, which went from ${shortMoney(before.byWord, currency)} to ${shortMoney(after.byWord, currency)}`;
	return `${left}; ${against}${word}`;
}

function Total({ words, before, after, currency }: { words: string; before: number | null; after: number | null; currency: string }) {
	return (
		<div>
			<span className="tiny second d-block">{words}</span>
			<b title={after === null ? undefined : money(after, currency)}>{after === null ? "none" : shortMoney(after, currency)}</b>
			{before !== null && after !== null && before !== after && <span className="tiny second d-block">before {shortMoney(before, currency)}</span>}
		</div>
	);
}

/** What can be done with minutes. */
function Tools({ view, mayHold }: { view: MinutesView; mayHold: boolean }) {
	const run = useRun();
	const act = useAct();
	const notice = useNotice();
	const walk = view.kind === "walk";
	const text = () => minutesMarkdown(view, (amount) => money(amount, view.currency));
	const copy = async () => {
		const done = await navigator.clipboard?.writeText(text()).then(
			() => true,
			() => false,
		);
		notice({ words: done ? "Minutes copied as Markdown." : "The browser doesn’t allow copying; export the file instead." });
	};
	const save = () => {
		const link = document.createElement("a");
		link.href = URL.createObjectURL(new Blob([text()], { type: "text/markdown" }));
		link.download = `${view.name} ${view.on}.md`;
		link.click();
		URL.revokeObjectURL(link.href);
	};
	return (
		<span className="no-print minutes-tools">
			{!view.ended && (
				<Link className="btn btn-sm btn-primary" href={`/rounds/${view.id}`}>
					Back to the round
				</Link>
			)}
			<Button size="sm" variant="outline-primary" onClick={() => void copy()}>
				Copy as Markdown
			</Button>
			<Button size="sm" variant="outline-primary" onClick={() => window.print()}>
				Print
			</Button>
			{mayHold && view.ended && !walk && (
				<Button
					size="sm"
					variant="outline-primary"
					onClick={() => void act(run("rounds.reopen", { id: view.id }), "Round reopened.", ({ id }) => run("rounds.end", { id }))}
				>
					Reopen round
				</Button>
			)}
			<TableExport table="minutes" more={{ round: view.id }} also={[{ name: "Markdown", save }]} />
		</span>
	);
}

/** Each deal with what was said of it, noted and changed. */
function Deals({ view }: { view: MinutesView }) {
	const { currency } = view;
	const walk = view.kind === "walk";
	return (
		<DataTable
			of={walk ? "Decisions" : "Calls"}
			tableClass="mb-0 minutes-calls"
			rows={view.deals}
			rowKey={({ id }) => id}
			columns={[
				dealColumn((deal: MinutesView["deals"][number]) => deal),
				{ key: "rep", label: "Rep", by: ({ owner }) => owner, cell: ({ owner }) => owner },
				!walk && { key: "category", label: "Category", by: ({ category }) => category, cell: ({ category }) => spaced(category) },
				{ key: "amount", label: "Amount", num: true, className: "text-nowrap", by: ({ amount }) => amount, cell: ({ amount }) => money(amount, currency) },
				{
					key: "call",
					label: walk ? "Decision" : "Call",
					by: ({ said }) => said,
					cell: ({ call, said }) => (
						<span className={call ? "" : "third"}>
							{said}
							{call && call.by !== view.startedBy && <span className="d-block tiny second">by {call.by}</span>}
						</span>
					),
				},
				{
					key: "notes",
					label: "Notes and changes",
					cell: ({ note, changes }) => (
						<>
							{note && <span className="d-block">{note}</span>}
							{changes.map(({ words, by }, i) => (
								<span key={i} className="d-block tiny second">
									{words} ({by})
								</span>
							))}
						</>
					),
				},
			]}
		/>
	);
}
