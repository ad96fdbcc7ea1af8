"use client";
import Link from "next/link";
import type { Light } from "@/core/attention/attention";
import { findCall } from "@/core/rounds/calls";
import { plural } from "@/core/words/grammar";
import { Account } from "@/features/sheet/ui/Account";
import { Facts } from "@/features/sheet/ui/Facts";
import { LastContact } from "@/features/sheet/ui/LastContact";
import { People } from "@/features/sheet/ui/People";
import { Questions } from "@/features/sheet/ui/Questions";
import { Since } from "@/features/sheet/ui/SheetBody";
import { TrailDrawing } from "@/features/sheet/ui/TrailDrawing";
import { shortDate, shortMoney } from "@/ui/format";
import { FlagChip } from "@/ui/parts/FlagChip";
import { Lamp } from "@/ui/parts/Lamp";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { PromiseView } from "../server/promises";
import type { QueueDeal, RoundCurrent, RoundView } from "../server/readRound";
import { fateWords } from "../table/markdown";

/** One deal of a round: what was promised against what happened first, then what changed, why it is lit, what is known. */
export function DealPane({ view, current }: { view: RoundView; current: RoundCurrent }) {
	const { sheet, promises, before, history } = current;
	const give = useGive(view, current);
	const account = sheet.accountInfo;
	const bought = account?.orders.reduce((sum, { amount }) => sum + amount, 0) ?? 0;
	return (
		<article className="panel round-deal" aria-label={sheet.name}>
			<p className="small-text second mb-1">
				{sheet.account}
				{account &&
					` · ${bought ? `${shortMoney(bought, sheet.baseCurrency)} bought` : "no purchases yet"} · ${plural(account.others.filter(({ status }) => status === "open").length, "other open deal")}`}
			</p>
			<h2>
				<Lamp level={sheet.attention.level} size={24} /> {sheet.name}
			</h2>
			<p className="sheet-headline">{sheet.headline}</p>
			<Facts view={sheet} keys />
			{(promises.length > 0 || before) && <Promised view={view} current={current} />}
			<div className="round-cols">
				<div>
					<Flags view={view} current={current} give={give} />
					<Since view={sheet} />
					<LastContact view={sheet} />
					<section>
						<h3>Close date and runway</h3>
						<TrailDrawing view={sheet} />
					</section>
					{history.length > 0 && <EarlierCalls history={history} />}
				</div>
				<div>
					<Questions view={sheet} onTask={(title, flags) => void give(title, flags)} />
				</div>
			</div>
			<details className="round-more">
				<summary>People ({sheet.people.length})</summary>
				<People view={sheet} />
			</details>
			{account && (
				<details className="round-more">
					<summary>Account: {account.name}</summary>
					<Account account={account} seen={sheet.seen} currency={sheet.baseCurrency} />
				</details>
			)}
			<p className="small-text mt-2 mb-0 no-print">
				<Link href={`/deals/${encodeURIComponent(sheet.id)}`} target="_blank">
					Whole sheet
				</Link>{" "}
				·{" "}
				<Link href={`/deals/${encodeURIComponent(sheet.id)}/brief`} target="_blank">
					Brief
				</Link>
			</p>
		</article>
	);
}

/** What was promised in the round before, against what happened. */
function Promised({ view, current: { promises, before } }: { view: RoundView; current: RoundCurrent }) {
	const walk = view.kind === "walk";
	return (
		<section className="promised" aria-label={walk ? "Tasks given" : "Promises"}>
			<h3>
				{walk ? "Tasks given" : "Promises"}{" "}
				{before && (
					<span className="small-text second fw-normal">
						last round: <Link href={`/rounds/${before.id}`}>{shortDate(before.on)}</Link>
					</span>
				)}
			</h3>
			{promises.length ? (
				<ul className="rows small-text">
					{promises.map((promise) => (
						<PromiseLine key={promise.id} promise={promise} names={view.flagNames} kind={view.kind} />
					))}
				</ul>
			) : (
				<p className="small-text second mb-0">{walk ? "No tasks were given." : "No promises were made."}</p>
			)}
			{before?.note && <p className="small-text second mb-0 mt-1">Note from then: {before.note}</p>}
		</section>
	);
}

interface FlagsProps {
	readonly view: RoundView;
	readonly current: RoundCurrent;
	readonly give: ReturnType<typeof useGive>;
}

/** Why it is lit, each flag with the remedy that its owner can promise. */
function Flags({ view, current: { sheet }, give }: FlagsProps) {
	const walk = view.kind === "walk";
	return (
		<section>
			<h3>{sheet.flags.length ? "Why it’s lit" : "No flag is lit"}</h3>
			<ul className="why">
				{sheet.flags.map((flag) => (
					<li key={flag.code}>
						<FlagChip label={flag.label} severity={flag.severity} /> <span className="why-reason">{flag.reason}</span>
						{view.mayNote && sheet.mayAssign && (
							<button
								type="button"
								className="remedy no-print d-block"
								title={`${sheet.owner} ${walk ? "is given" : "promises"} it; the flag clears with ${flag.clears}`}
								onClick={() => void give(flag.remedy, [flag.code])}
							>
								{walk ? "Give" : "Promise"}: {flag.remedy}
							</button>
						)}
					</li>
				))}
			</ul>
		</section>
	);
}

function EarlierCalls({ history }: Pick<RoundCurrent, "history">) {
	return (
		<section>
			<h3>Earlier calls</h3>
			<ul className="rows small-text">
				{history.slice(0, 4).map((call) => (
					<li key={call.id}>
						<span>
							{findCall(call.call)?.label ?? call.call}
							{call.to && ` to ${shortDate(call.to)}`}
							{call.why && `: ${call.why}`}
						</span>
						<span className="second text-nowrap">
							{call.by}, {shortDate(call.on)}
						</span>
					</li>
				))}
			</ul>
		</section>
	);
}

/** A deal that was gone to, while the rest of it is being read. */
export function ComingDeal({ deal, currency }: { deal: QueueDeal; currency: string }) {
	return (
		<article className="panel round-deal" aria-label={deal.name} aria-busy="true">
			<p className="small-text second mb-1">{deal.account}</p>
			<h2>
				<Lamp level={deal.level as Light} size={24} /> {deal.name}
			</h2>
			<p className="sheet-headline">
				{shortMoney(deal.amount, currency)}, {deal.owner}
				{deal.close && `, due ${shortDate(deal.close)}`}
			</p>
			<p className="second" role="status">
				Loading the rest …
			</p>
		</article>
	);
}

const WENT: Readonly<Record<string, string>> = {
	out: "cleared",
	lit: "is still lit",
	closed: "the deal closed",
	early: "too early to tell",
	not_lit: "flag wasn’t on",
};

/** A promise against what happened, and whether its flag went out. */
export function PromiseLine({ promise, names, kind }: { promise: PromiseView; names: Readonly<Record<string, string>>; kind: string }) {
	const bad = promise.fate === "not done" || promise.fate === "late" || promise.fate === "dropped";
	return (
		<li>
			<span>
				{promise.title}
				<span className="d-block tiny second">
					{promise.who}, {shortDate(promise.given)}, by {shortDate(promise.due)}
					{promise.flags.map(({ code, state }) => `; ${names[code] ?? code} ${WENT[state] ?? state}`).join("")}
					{promise.note && `; “${promise.note}”`}
				</span>
			</span>
			<b className={`text-nowrap ${bad ? "worse" : promise.fate === "kept" ? "better" : "second"}`}>
				{fateWords(promise.fate, kind)}
				{promise.fate === "late" && promise.doneOn && ` (${shortDate(promise.doneOn)})`}
			</b>
		</li>
	);
}

/** Gives a promise of the deal's owner for the usual day. */
export function useGive(view: RoundView, current: RoundCurrent | null) {
	const run = useRun();
	const act = useAct();
	return async (title: string, flags: readonly string[], dueOn?: string): Promise<boolean> => {
		if (!current) return false;
		const draft = await run("tasks.draft", { dealIds: [current.id] });
		const due = dueOn ?? (draft.ok ? draft.result.due : current.sheet.seen);
		const done = await act(
			run("rounds.promise", { id: view.id, lines: [{ dealId: current.id, title, dueOn: due, flags: [...flags] }] }),
			({ tasks }) => `${current.sheet.owner} ${view.kind === "walk" ? "is given" : "promises"} it by ${shortDate(tasks[0]?.dueOn ?? due)}.`,
			({ tasks }) => run("tasks.takeBack", { ids: tasks.map(({ id }) => id) }),
		);
		return done !== null;
	};
}

/** What was promised or given on a deal in its round. */
export function Agreed({ view, current }: { view: RoundView; current: RoundCurrent | null }) {
	if (!current?.agreed.length) return null;
	return (
		<ul className="rows small-text">
			{current.agreed.map((promise) => (
				<PromiseLine key={promise.id} promise={promise} names={view.flagNames} kind={view.kind} />
			))}
		</ul>
	);
}
