"use client";
import Link from "next/link";
import type { CloseDeal, CloseStep } from "@/core/period/closeAccount";
import { plural } from "@/core/words/grammar";
import { money, nearDate } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import type { CloseView } from "../server/readClose";
import { short } from "../table/words";

const COLOURS: Readonly<Record<string, string>> = { won: "home", lost: "gone", "pushed-out": "gone", closing: "lamp" };

/** Where the deals went that were open at the beginning, and those that came: the bridge over the period, each step with its largest deals. */
export function Went({ view }: { view: CloseView }) {
	const { account } = view;
	const most = Math.max(1, ...account.went.map(({ amount }) => amount));
	const address = useAddress();
	const closing = account.went.at(-1);
	return (
		<section className="panel" aria-label="Where the open deals went">
			<h3>Where the open deals went</h3>
			{account.went
				.filter(({ count }) => count > 0)
				.map((step) => (
					<Step key={step.kind} step={step} most={most} view={view} />
				))}
			{closing && closing.count > 0 && (
				<p className="close-undecided mb-0">
					<b>{plural(closing.count, "deal")} without a decision.</b>{" "}
					<Link href={address("/deals", { due: view.due, seen: null, close: null })}>Those still open</Link>
				</p>
			)}
		</section>
	);
}

function Step({ step, most, view: { account } }: { step: CloseStep; most: number; view: CloseView }) {
	const colour = COLOURS[step.kind] ?? "series";
	const sign = step.leaves ? "−" : step.kind === "opening" || step.kind === "closing" ? "" : "+";
	return (
		<details className="close-step">
			<summary>
				<span>{step.kind === "opening" ? "Open at the start" : step.name}</span>
				<span className="close-bar" aria-hidden="true">
					<i style={{ width: `${(100 * step.amount) / most}%`, background: `var(--${colour})` }} />
				</span>
				<span className="num second" title={plural(step.count, "deal")}>
					{step.count}
				</span>
				<span className="num" title={money(step.amount, account.currency)}>
					{sign}
					{short(account, step.amount)}
				</span>
			</summary>
			<ul className="rows tiny">
				{step.deals.map((deal) => (
					<li key={deal.id}>
						<span>
							<Link href={`/deals/${encodeURIComponent(deal.id)}`}>{deal.name}</Link>
							<span className="second d-block">{dealWords(step, deal, account.to)}</span>
						</span>
						<span className="num">{money(deal.amount, account.currency)}</span>
					</li>
				))}
				{step.count > step.deals.length && <li className="second">and {step.count - step.deals.length} smaller ones</li>}
			</ul>
		</details>
	);
}

function dealWords({ kind }: CloseStep, { owner, close, leftOn, reason }: CloseDeal, to: string): string {
	const went = kind === "pushed-out" ? `pushed ${leftOn ? `on ${nearDate(leftOn, to)} ` : ""}to ${close ? nearDate(close, to) : "no date"}` : null;
	return [owner, went, reason && `“${reason}”`].filter(Boolean).join(" · ");
}
