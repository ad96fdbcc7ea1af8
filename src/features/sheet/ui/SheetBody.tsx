import Link from "next/link";
import { type ReactNode, useMemo } from "react";
import { Button } from "react-bootstrap";
import { byCount } from "@/core/words/grammar";
import { IntakePlace } from "@/features/intake/ui/IntakePlace";
import { money, nearDate, share } from "@/ui/format";
import { Evidence } from "@/ui/parts/Bars";
import { FlagChip } from "@/ui/parts/FlagChip";
import { Lamp } from "@/ui/parts/Lamp";
import { Level, levelWord } from "@/ui/parts/Level";
import { Term } from "@/ui/parts/Term";
import type { SheetView } from "../server/sheetView";
import { Account, AccountName } from "./Account";
import { ClosePlan } from "./ClosePlan";
import { Composer } from "./Composer";
import { Facts } from "./Facts";
import { LastContact } from "./LastContact";
import { People } from "./People";
import { ProductsAndQuotes } from "./ProductsAndQuotes";
import { Questions } from "./Questions";
import { SheetFiles } from "./SheetFiles";
import { SheetTasks } from "./SheetTasks";
import { Stages } from "./Stages";
import { DealRoundsSlot, FlagRecordSlot } from "./slots";
import { Timeline } from "./Timeline";
import { TrailDrawing } from "./TrailDrawing";

interface Props {
	readonly view: SheetView;
	readonly onAssign: (title: string, flags: string[]) => void;
}

/** The side sheet: why it is lit and what to do about it, gaps, what changed, who waits, tasks; the rest of the whole sheet opens below. */
export function SheetBody({ view, onAssign }: Props) {
	// Long: one page, its parts in their order.
	const place = useMemo(() => ({ dealId: view.id }), [view.id]);
	return (
		<IntakePlace place={place} today={view.seen} mayWrite={view.mayNote}>
			<header className="sheet-head">
				<h2>
					<Lamp level={view.attention.level} size={24} /> {view.name}
				</h2>
				<p className="small-text second mb-0">
					<AccountName view={view} />
					{view.competitor && ` · against ${view.competitor}`}
				</p>
			</header>
			<Facts view={view} />
			<WhyLit view={view} onAssign={onAssign} />
			<Gaps view={view} />
			<Since view={view} />
			<LastContact view={view} />
			<SheetTasks view={view} />
			<DealRoundsSlot id={view.id} live={!view.past} />
			<section>
				<Composer view={view} keys />
			</section>
			<div className="d-flex gap-2 mt-3 no-print">
				{view.mayAssign && (
					<Button size="sm" onClick={() => onAssign("", [])}>
						Give a task
					</Button>
				)}
				<Link className="btn btn-sm btn-outline-primary" href={sheetAddress(view)}>
					Open the whole sheet
				</Link>
			</div>
			<div className="more-sections">
				<More name="Questions and answers">
					<Questions view={view} onTask={onAssign} />
				</More>
				<More name={`Timeline (${view.happenings.length})`}>
					<Timeline list={view.happenings} files={view.files} seen={view.seen} past={view.past} mayNote={view.mayNote} />
				</More>
				<More name="Close date and stages">
					<TrailDrawing view={view} />
					<Stages view={view} />
				</More>
				<More name={`People (${view.people.length})`}>
					<People view={view} />
				</More>
				<More name={`Files and links (${view.files.length})`}>
					<SheetFiles view={view} />
				</More>
				<More name="Close plan">
					<ClosePlan view={view} />
				</More>
				<More name="Products and quotes">
					<ProductsAndQuotes view={view} />
				</More>
				{view.accountInfo && (
					<More name={`Account: ${view.accountInfo.name}`}>
						<Account account={view.accountInfo} seen={view.seen} currency={view.baseCurrency} />
					</More>
				)}
			</div>
		</IntakePlace>
	);
}

/** A part of the sheet that is opened when it is wanted. */
function More({ name, children }: { name: string; children: ReactNode }) {
	return (
		<details>
			<summary>{name}</summary>
			{children}
		</details>
	);
}

export function sheetAddress(view: Pick<SheetView, "id" | "past" | "seen" | "against">): string {
	const query = new URLSearchParams({ ...(view.past ? { seen: view.seen } : {}), against: view.against });
	return `/deals/${encodeURIComponent(view.id)}?${query}`;
}

export function WhyLit({ view, onAssign, whole = false }: Props & { whole?: boolean }) {
	const { attention } = view;
	return (
		<section>
			{view.rest && (
				<p className="small-text mb-2">
					<b>At rest until {nearDate(view.rest.until, view.seen)}</b>: {view.rest.reason} <span className="second">({view.rest.by})</span>
				</p>
			)}
			<h3>{view.rest ? "Its flags" : attention.level === "calm" ? (view.flags.length ? "Flags on, but calm" : "No flags are on") : "Why it’s lit"}</h3>
			<ul className="why">
				{view.flags.map((flag) => (
					<li key={flag.code}>
						<div>
							<FlagChip label={flag.label} severity={flag.severity} /> <span className="why-reason">{flag.reason}</span>
						</div>
						<div className="tiny second">
							{litWords(flag, view.seen)}
							<FlagRecordSlot code={flag.code} />
						</div>
						{whole && (
							<div className="tiny second">
								Clears with {flag.clears}.{flag.settings.length > 0 && ` Set at ${flag.settings.join(", ")}.`}
							</div>
						)}
						{view.mayAssign && (
							<button
								type="button"
								className="remedy no-print"
								title={`Gives ${view.owner} this task; the flag clears with ${flag.clears}`}
								onClick={() => onAssign(flag.remedy, [flag.code])}
							>
								Give task: {flag.remedy}
							</button>
						)}
					</li>
				))}
			</ul>
			<p className="tiny second attention-parts" title={`Stake: the amount against the median open deal of ${money(attention.median, view.baseCurrency)}`}>
				<Term of="attention" /> {attention.score} = 100 × risk {share(attention.risk)} × (½ + ½ stake {share(attention.stake)}) × (½ + ½ urgency{" "}
				{share(attention.urgency)})
			</p>
		</section>
	);
}

/** Since when a flag is lit. */
function litWords({ since, days }: { since: string; days: number }, seen: string): string {
	return since === seen ? "Lit today" : `Lit for ${days} working ${byCount(days, "day", "days")}, since ${nearDate(since, seen)}`;
}

function Gaps({ view }: { view: SheetView }) {
	const { strength, coverage, expected, questions } = view.qualification;
	const gaps = questions.filter((question) => question.gap);
	return (
		<section>
			<h3>Evidence gaps at {view.stage}</h3>
			<Evidence strength={strength} coverage={coverage} expected={expected} width={200} />
			<div className="tiny second mb-1">
				strength {strength}, coverage {coverage}, expected {expected}
			</div>
			{gaps.length ? (
				<ul className="rows small-text">
					{gaps.map((question) => (
						<li key={question.id}>
							<span>
								{question.prompt}
								{question.key && <b title="key question"> key</b>}
							</span>
							<span className="worse text-nowrap">
								<Level level={question.level} /> {levelWord(question.level)}
							</span>
						</li>
					))}
				</ul>
			) : (
				<p className="small-text second mb-0">Everything due here has been heard from the buyer.</p>
			)}
		</section>
	);
}

export function Since({ view }: { view: SheetView }) {
	const near = view.seen;
	return (
		<section>
			<h3>Since {nearDate(view.against, near)}</h3>
			{view.newSince ? (
				<p className="small-text second mb-0">The deal was created since then.</p>
			) : view.changes.length + view.lit.length + view.wentOut.length === 0 ? (
				<p className="small-text second mb-0">No changes.</p>
			) : (
				<ul className="rows small-text">
					{view.changes.map((c) => (
						<li key={c.field}>
							<span>{c.field}</span>
							<span className="text-end">
								{c.before} → {c.after}
							</span>
						</li>
					))}
					{view.lit.length > 0 && (
						<li>
							<span>Flags lit</span>
							<span className="text-end">
								{view.flags
									.filter((flag) => view.lit.includes(flag.code))
									.map((flag) => flag.label)
									.join(", ")}
							</span>
						</li>
					)}
					{view.wentOut.length > 0 && (
						<li>
							<span>Flags cleared</span>
							<span className="text-end">{view.wentOut.join(", ")}</span>
						</li>
					)}
				</ul>
			)}
		</section>
	);
}
