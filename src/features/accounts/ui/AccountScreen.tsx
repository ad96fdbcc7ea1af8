"use client";
import Link from "next/link";
import { useMemo, useState } from "react";
import { Button } from "react-bootstrap";
import type { AttachmentView } from "@/features/attachments";
import { Attachments } from "@/features/attachments/ui/Attachments";
import { IntakePlace } from "@/features/intake/ui/IntakePlace";
import { nearDate, shortMoney } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import { Lamp } from "@/ui/parts/Lamp";
import type { AccountPage, PageDeal } from "../server/accountPageView";
import { accountHeadline } from "../table/words";
import { AccountLog } from "./AccountLog";
import { AccountTools } from "./AccountTools";
import { Bought } from "./Bought";
import { KeptOnTop } from "./KeptOnTop";
import { NewDeal } from "./NewDeal";
import { GiveAtSlot } from "./slots";
import { WhoKnowsWhom } from "./WhoKnowsWhom";
import "@/ui/parts/parts.css";
import "./account.css";

/** The whole story of an account: what was said and done, who knows whom, its deals, what it bought and never did, what is open. */
export function AccountScreen({ view }: { view: AccountPage }) {
	const place = useMemo(() => ({ accountId: view.id }), [view.id]);
	return (
		<IntakePlace place={place} today={view.seen} mayWrite={view.mayWrite}>
			<div className="account">
				<header className="account-head">
					<div className="d-flex justify-content-between gap-3 align-items-start">
						<h2>{view.name}</h2>
						<AccountTools view={view} />
					</div>
					<p className="second small-text mb-1">
						{[
							view.customerSince ? `customer since ${nearDate(view.customerSince, view.seen)}` : view.kind,
							view.industry,
							view.territory,
							view.owner,
							view.lastContact ? `last contact ${nearDate(view.lastContact, view.seen)}` : null,
						]
							.filter(Boolean)
							.join(" · ")}
					</p>
					<p className="account-says mb-0">
						{accountHeadline(view)}
						{view.atRisk && <b className="worse"> This account is at risk.</b>}
					</p>
				</header>
				<AccountLog view={view} />
				<div className="account-middle">
					<WhoKnowsWhom view={view} />
					<Deals view={view} />
					<Files view={view} />
					<History view={view} />
				</div>
				<div className="account-side">
					<Next view={view} />
					<KeptOnTop view={view} />
					<OpenPoints view={view} />
					<Bought view={view} />
				</div>
			</div>
		</IntakePlace>
	);
}

function Deals({ view }: { view: AccountPage }) {
	return (
		<section className="panel" aria-label="Deals">
			<div className="d-flex justify-content-between gap-2">
				<h3>Deals</h3>
				{view.edit && <NewDeal view={view} />}
			</div>
			<ul className="rows small-text">
				{view.deals.map((deal) => (
					<DealLine key={deal.id} deal={deal} view={view} />
				))}
				{!view.deals.length && <li className="second">No deals that you can see.</li>}
			</ul>
		</section>
	);
}

const FLAGS_SHOWN = 2;

function DealLine({ deal, view }: { deal: PageDeal; view: AccountPage }) {
	const address = useAddress();
	const more = deal.flags.length - FLAGS_SHOWN;
	const about =
		deal.status === "open"
			? [`${deal.stage} ${deal.stageAge} d`, deal.close && nearDate(deal.close, view.seen), ...deal.flags.slice(0, FLAGS_SHOWN), more > 0 && `${more} more`]
			: [deal.why];
	return (
		<li>
			<span>
				{deal.status === "open" ? (
					<Lamp level={deal.level as "act" | "watch" | "calm"} size={16} />
				) : (
					<span className="second">
						{deal.status} {nearDate(deal.closed, view.seen)}
					</span>
				)}{" "}
				<Link href={address(`/deals/${encodeURIComponent(deal.id)}`)}>{deal.name}</Link>
				<span className="d-block tiny second">{[deal.owner, ...about].filter(Boolean).join(" · ")}</span>
			</span>
			<span className={`num ${deal.status === "won" ? "gained" : deal.status === "lost" ? "worse" : ""}`}>{shortMoney(deal.amount, view.currency)}</span>
		</li>
	);
}

function Files({ view }: { view: AccountPage }) {
	const address = useAddress();
	const { id, files, seen, past, mayWrite, deals } = view;
	const beside = ({ dealId }: AttachmentView) =>
		dealId && <Link href={address(`/deals/${encodeURIComponent(dealId)}`)}>{deals.find((deal) => deal.id === dealId)?.name ?? "its deal"}</Link>;
	return (
		<section className="panel" aria-label="Files and links">
			<h3>Files and links</h3>
			<Attachments place={{ accountId: id }} list={files} seen={seen} past={past} mayWrite={mayWrite} beside={beside} />
		</section>
	);
}

/** What was changed of the account itself. */
function History({ view: { history, seen } }: { view: AccountPage }) {
	if (!history.length) return null;
	return (
		<details className="panel small-text">
			<summary>
				Changes to this account <span className="second">{history.length}</span>
			</summary>
			<ul className="rows mb-0">
				{history.map(({ id, on, by, words }) => (
					<li key={id}>
						<span>
							{words.join("; ")}
							<span className="d-block tiny second">
								{by}, {nearDate(on, seen)}
							</span>
						</span>
					</li>
				))}
			</ul>
		</details>
	);
}

/** What is planned next, with the last conversation beside it. */
function Next({ view: { next, before, seen } }: { view: AccountPage }) {
	if (!next) return null;
	return (
		<section className="panel" aria-label="Next">
			<h3>
				Next: {next.kind} on {nearDate(next.day, seen)}
			</h3>
			<p className="small-text mb-1">
				{next.subject}
				{next.contacts.length > 0 && <span className="second"> with {next.contacts.join(", ")}</span>}
			</p>
			{before && (
				<p className="small-text second mb-0">
					The time before, {nearDate(before.day, seen)}: {before.subject}
					{before.body && <span className="d-block">“{before.body}”</span>}
				</p>
			)}
		</section>
	);
}

function OpenPoints({ view }: { view: AccountPage }) {
	const address = useAddress();
	const [giving, setGiving] = useState(false);
	return (
		<section className="panel" aria-label="Open points">
			<div className="d-flex justify-content-between gap-2">
				<h3>Open points</h3>
				{view.mayGive && (
					<Button size="sm" variant="link" className="p-0 no-print" onClick={() => setGiving(true)}>
						Give a task
					</Button>
				)}
			</div>
			{giving && <GiveAtSlot accounts={[{ id: view.id, name: view.name }]} onClose={() => setGiving(false)} />}
			<ul className="rows small-text">
				{view.open.map(({ id, title, due, late, who, dealId }) => (
					<li key={id}>
						<span>
							{dealId ? <Link href={address(`/deals/${encodeURIComponent(dealId)}`)}>{title}</Link> : title}
							<span className="d-block tiny second">{who}</span>
						</span>
						<span className={late ? "worse text-nowrap" : "second text-nowrap"}>{due ? nearDate(due, view.seen) : "no date"}</span>
					</li>
				))}
				{!view.open.length && <li className="second">Nothing is open.</li>}
			</ul>
		</section>
	);
}
