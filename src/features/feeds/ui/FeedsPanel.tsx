"use client";
import Link from "next/link";
import { useState } from "react";
import { Badge, Button } from "react-bootstrap";
import { listed } from "@/core/words/grammar";
import { instantWords, nearDate } from "@/ui/format";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { FeedsView, FeedView, RunView } from "../server/readFeeds";
import { EditFeed } from "./EditFeed";
import { ReviewFile } from "./ReviewFile";
import "./feeds.css";

const DAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

/** All feeds: how each is fed, what came lately, and what waits for an answer. */
export function FeedsPanel({ view }: { view: FeedsView }) {
	const [editing, setEditing] = useState<FeedView | "new" | null>(null);
	return (
		<>
			<div className="d-flex justify-content-between align-items-start gap-3 mb-2">
				<p className="second mb-0">
					A feed imports files by themselves: what is plain at once, what would have to be chosen or confirmed once somebody has answered. The same file twice
					does nothing.
				</p>
				<Button className="text-nowrap" onClick={() => setEditing("new")}>
					Add feed
				</Button>
			</div>
			{!view.feeds.length && (
				<div className="panel empty">
					<h2>No feeds yet</h2>
					<p>Add one to have last week’s report imported when it arrives by mail, in a folder or over the API.</p>
				</div>
			)}
			{view.feeds.map((feed) => (
				<Feed key={feed.id} feed={feed} view={view} onEdit={() => setEditing(feed)} />
			))}
			{editing && <EditFeed feed={editing === "new" ? null : editing} view={view} close={() => setEditing(null)} />}
		</>
	);
}

function Feed({ feed, view, onEdit }: { feed: FeedView; view: FeedsView; onEdit: () => void }) {
	const run = useRun();
	const act = useAct();
	const { id, name, kind, covers, on, due, tell, by, runs } = feed;
	return (
		<section className="panel mb-3" aria-label={name}>
			<div className="d-flex justify-content-between gap-3">
				<h2>
					{name} {!on && <Badge bg="secondary">switched off</Badge>}
				</h2>
				<span className="text-nowrap">
					<Button size="sm" variant="outline-primary" onClick={onEdit} aria-label={`Edit ${name}`}>
						Edit
					</Button>{" "}
					<Button
						size="sm"
						variant="link"
						aria-label={`Delete ${name}`}
						onClick={() => void act(run("feeds.end", { id }), `${name} deleted; what it brought stays.`, () => run("feeds.end", { id, ended: false }))}
					>
						Delete
					</Button>
				</span>
			</div>
			<p className="small-text second">
				{kind === "weekly" ? `Weekly files of ${covers ? `the part ${covers}` : "the whole pipeline"}` : "Bundles"}, imported as {by}
				{due ? `; due ${listed(due.days.map((day) => DAYS[day - 1] ?? ""))} by ${due.at}` : ""}
				{tell.length > 0 && `; tells ${listed(tell.map((one) => one.name))}`}.
			</p>
			<Ways feed={feed} takesMail={view.takesMail} zone={view.zone} />
			<Runs runs={runs} today={view.today} kind={kind} covers={covers} />
		</section>
	);
}

/** The addresses a feed is fed at. */
function Ways({ feed, takesMail, zone }: { feed: FeedView; takesMail: boolean; zone: string }) {
	const { id, address, folder, senders, url } = feed;
	const run = useRun();
	const act = useAct();
	return (
		<dl className="feed-ways small-text">
			<dt>By mail</dt>
			<dd>
				{!takesMail ? (
					"No mail comes in here: the administrator of this server sets PORCH_LAMP_INBOUND."
				) : senders.length ? (
					<>
						<code>{address}</code> from {listed([...senders])}{" "}
						<Button
							size="sm"
							variant="link"
							className="p-0 align-baseline"
							onClick={() => void act(run("feeds.replaceAddress", { id }), "Replaced; mails to the old address are refused.")}
						>
							Replace address
						</Button>
					</>
				) : (
					"Name who may send."
				)}
			</dd>
			<dt>From a folder</dt>
			<dd>{folder ? <code>{folder}</code> : "No folder is watched: the administrator of this server sets PORCH_LAMP_INBOX."}</dd>
			<dt>From an address</dt>
			<dd>{url ? <Fetched feed={feed} zone={zone} /> : "No address is fetched."}</dd>
			<dt>Over the API</dt>
			<dd>
				<code>POST /api/v1/feeds/{id}/files?name=…</code>
			</dd>
		</dl>
	);
}

function Fetched({ feed: { url, fetchedAt, nextAt, hasHeader }, zone }: { feed: FeedView; zone: string }) {
	const times = [
		fetchedAt && `fetched ${instantWords(fetchedAt, zone)}`,
		nextAt ? `next ${instantWords(nextAt, zone)}` : "not fetched any more: its rule has ended",
	];
	return (
		<>
			<code>{url}</code>
			{hasHeader && " with a header"}; {times.filter(Boolean).join(", ")}
		</>
	);
}

const STATES: Readonly<Record<RunView["state"], string>> = {
	reading: "is being read",
	imported: "imported",
	known: "here already",
	waits: "waits for an answer",
	refused: "not imported",
	failed: "couldn’t be imported",
	missing: "didn’t come",
};

function Runs({ runs, today, kind, covers }: { runs: readonly RunView[]; today: string; kind: FeedView["kind"]; covers: string }) {
	const [open, setOpen] = useState<RunView | null>(null);
	if (!runs.length) return <p className="small-text second mb-0">Nothing has come yet.</p>;
	return (
		<ul className="rows small-text mb-0">
			{runs.map((run) => (
				<li key={run.id}>
					<span>
						<b className={run.state === "refused" || run.state === "failed" || run.state === "missing" ? "worse" : undefined}>
							{STATES[run.state]}
							{run.byHand && " by hand"}
						</b>{" "}
						{run.state === "missing" ? `by ${run.name}` : run.name}
						<span className="d-block tiny second">
							{[nearDate(run.on, today), run.way && `by ${run.way}`, run.sender].filter(Boolean).join(", ")}
							{run.words && !run.byHand && `: ${run.words}`}
						</span>
					</span>
					{run.state === "waits" && (
						<Button size="sm" onClick={() => setOpen(run)} aria-label={`Review ${run.name}`}>
							Review
						</Button>
					)}
					{run.state === "imported" && run.day && run.before && (
						<Link className="text-nowrap" href={`/changes?due=any&seen=${run.day}&against=${run.before}`}>
							See what changed
						</Link>
					)}
					{run.state === "imported" && !(run.day && run.before) && (
						<Link className="text-nowrap" href={`/setup?place=${kind === "weekly" ? "weekly" : "bundle"}`}>
							Open imports
						</Link>
					)}
				</li>
			))}
			{open && <ReviewFile run={open} covers={covers} today={today} close={() => setOpen(null)} />}
		</ul>
	);
}
