"use client";
import Link from "next/link";
import { ProgressBar } from "react-bootstrap";
import type { CloseAccount } from "@/core/period/closeAccount";
import { plural } from "@/core/words/grammar";
import { shortDate } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import { useLookAgain } from "@/ui/useLookAgain";
import type { CloseView } from "../server/readClose";
import { closedWords, closeHeadline, closeSentences, differenceWords, gained, gaveWayWords, short } from "../table/words";
import { CloseTools } from "./CloseTools";
import { GroupTables, RepWords } from "./GroupTables";
import { NoteForm } from "./NoteForm";
import { Said } from "./Said";
import { Went } from "./Went";
import "@/ui/parts/parts.css";
import "./closes.css";

/** How a period ended: what was won, where its deals went, what was said, and what made the difference. */
export function CloseScreen({ view, past }: { view: CloseView; past: boolean }) {
	const { account, shown } = view;
	return (
		<div className="close">
			<section className="panel close-top">
				<div className="close-says">
					<h2>
						<span className="second small-text d-block">{view.label}</span>
						{closeHeadline(account)}
					</h2>
					<CloseTools view={view} past={past} />
				</div>
				<p className="mb-1">{closeSentences(account).join(" ")}</p>
				<p className="second small-text mb-0">
					{closedWords(view)} {shown && <Sealed of={shown} />} Seen on its last day, at that day’s rates.
				</p>
				<Since view={view} />
				<Versions view={view} />
				<OnTheWay progress={view.progress} />
			</section>
			<div className="close-two">
				<Said account={account} waiting={view.progress !== null} />
				<Went view={view} />
			</div>
			<div className="close-two">
				<RepWords account={account} />
				<section className="panel" aria-label="What made the difference">
					<h3>What made the difference</h3>
					<Differences account={account} waiting={view.progress !== null} />
					<NoteForm view={view} past={past} />
				</section>
			</div>
			<GroupTables view={view} />
			<BesideIt account={account} />
		</div>
	);
}

/** Other periods, the last days, tasks and prices: what stands beside the result. */
function BesideIt({ account }: { account: CloseAccount }) {
	const gave = gaveWayWords(account);
	return (
		<section className="panel" aria-label="Beside it">
			<h3>Beside it</h3>
			<ul className="rows mb-0">
				<Beside words="the period before" of={account.before} account={account} />
				<Beside words="a year before" of={account.yearAgo} account={account} />
				<li>
					<span>
						From {shortDate(account.lastDays.from)} on, the last four working days: {plural(account.lastDays.won.count, "deal")} won,{" "}
						{account.lastDays.pushed.count} pushed out
					</span>
					<span className="num">{short(account, account.lastDays.won.amount)}</span>
				</li>
				<li>
					<span>
						{plural(account.tasks.given, "task")} given, {account.tasks.done} done; {account.tasks.out} flags were put out, {account.tasks.lit} still lit at the
						end
					</span>
				</li>
				{gave && (
					<li>
						<span>{gave}</span>
					</li>
				)}
			</ul>
		</section>
	);
}

function Sealed({ of: { seal, whole } }: { of: NonNullable<CloseView["shown"]> }) {
	return (
		<span className={whole ? "" : "worse"} title={`SHA-256 ${seal}`}>
			{whole ? `Sealed ${seal.slice(0, 8)}.` : `It doesn’t read as it was sealed (${seal.slice(0, 8)}).`}
		</span>
	);
}

/** What reads otherwise now than it was kept. */
function Since({ view: { since, account } }: { view: CloseView }) {
	if (!since) return null;
	const parts = [
		["won", since.won],
		["lost", since.lost],
		["open", since.open],
	] as const;
	const said = parts.flatMap(([words, amount]) => (amount ? [`${gained(account, amount)} ${words}`] : []));
	return (
		<p className="close-since mb-0 mt-2">
			History was written to since: {said.length ? said.join(", ") : "other deals, the same sums"}. What was kept stays as it was; keep the new reading as a
			correction.
		</p>
	);
}

/** The close and its corrections, where there are several. */
function Versions({ view: { kept, shown, due } }: { view: CloseView }) {
	const address = useAddress();
	if (kept.length < 2) return null;
	return (
		<ul className="close-versions small-text">
			{kept.map((one) => (
				<li key={one.id} aria-current={one.id === shown?.id ? "true" : undefined}>
					<Link href={address("/period/closed", { due, close: one.id })}>{one.correction ? `Correction ${one.correction}` : "As it was closed"}</Link>, {one.on}
					{one.by && `, ${one.by}`}
					{one.why && `: ${one.why}`}
				</li>
			))}
		</ul>
	);
}

/** What a large company’s page still waits for; it looks again until it is there. */
function OnTheWay({ progress }: Pick<CloseView, "progress">) {
	useLookAgain(progress !== null);
	if (!progress) return null;
	const percent = Math.round((100 * progress.done) / Math.max(1, progress.steps));
	return (
		<div className="mt-2" role="status">
			<p className="small-text second mb-1">The outlooks of its days are being computed from the past; what made the difference appears with them.</p>
			<ProgressBar now={percent} label={`${percent}%`} visuallyHidden />
		</div>
	);
}

function Differences({ account, waiting }: { account: CloseAccount; waiting: boolean }) {
	if (waiting) return <p className="second small-text">Being computed …</p>;
	if (!account.outlooks.length)
		return (
			<p className="second small-text">There was no outlook on the first day, since too few past periods were known: nothing to hold the result against.</p>
		);
	return (
		<ul className="rows">
			{account.differences.map((one) => (
				<li key={one.id}>
					<span>
						<Link href={`/deals/${encodeURIComponent(one.id)}`}>{one.name}</Link>
						<span className="d-block tiny second">{differenceWords(account, one)}</span>
					</span>
					<span className={`num ${one.amount > 0 ? "gained" : "worse"}`}>{gained(account, one.amount)}</span>
				</li>
			))}
			<li>
				<span>
					Not open on {shortDate(account.from)}
					<span className="d-block tiny second">{plural(account.unforeseen.count, "deal")} made, reopened or handed in, and won in time</span>
				</span>
				<span className="num gained">{gained(account, account.unforeseen.amount)}</span>
			</li>
		</ul>
	);
}

function Beside({ words, of, account }: { words: string; of: CloseAccount["before"]; account: CloseAccount }) {
	const address = useAddress();
	return (
		<li>
			<span>
				<Link href={address("/period/closed", { due: `${of.from}..${of.to}`, close: null })}>{words}</Link>: {plural(of.won.count, "deal")} won
				{of.target ? `, ${Math.round((100 * of.won.amount) / of.target)}% of ${short(account, of.target)}` : ", no target"}
			</span>
			<span className="num">{short(account, of.won.amount)}</span>
		</li>
	);
}
