"use client";
import Link from "next/link";
import { plural } from "@/core/words/grammar";
import { grouped, longDate, money } from "@/ui/format";
import { MoreRows } from "@/ui/parts/MoreRows";
import { Scrolls } from "@/ui/parts/Scrolls";
import type { MadeOf } from "../server/madeOf";
import type { Made } from "../table/figures";
import { type Days, useOpens } from "./opens";
import "@/ui/parts/parts.css";
import "./period.css";

const TITLES: Readonly<Record<Made, string>> = {
	target: "Target",
	gap: "Gap to the target",
	contacts: "Contacts a working day",
	undone: "Planned activities not done",
};

/** What makes a figure of the period: each part, so that it can be worked out by hand. */
export function MadeScreen({ view, days }: { view: MadeOf; days: Days }) {
	const opens = useOpens(days);
	return (
		<section className="panel" aria-labelledby="made">
			<div className="d-flex justify-content-between gap-3 flex-wrap">
				<h2 id="made">
					{TITLES[view.of]}: {sumOf(view)}
				</h2>
				<Link className="small-text no-print" href={opens.address("/period")}>
					Back to Period
				</Link>
			</div>
			{view.of === "gap" && <Gap view={view} days={days} />}
			{view.of === "target" && <Targets view={view} />}
			{(view.of === "contacts" || view.of === "undone") && <Contacts view={view} days={days} />}
		</section>
	);
}

function sumOf({ of, target, gap, count, workingDays, currency }: MadeOf): string {
	if (of === "target") return target === null ? "no target set" : money(target, currency);
	if (of === "gap") return gap === null ? "no target is set" : money(gap, currency);
	if (of === "undone") return grouped(count);
	return workingDays ? (count / workingDays).toFixed(1) : "no working day has begun";
}

function Gap({ view: { target, won, gap, currency }, days }: { view: MadeOf; days: Days }) {
	const opens = useOpens(days);
	if (gap === null || target === null) return <p className="second mb-0">None of these people has a target for this period.</p>;
	return (
		<table className="table made-sum">
			<tbody>
				<tr>
					<th scope="row">Target</th>
					<td className="num">
						<Link href={opens.figure("target")}>{money(target, currency)}</Link>
					</td>
				</tr>
				<tr>
					<th scope="row">minus won</th>
					<td className="num">
						<Link href={opens.figure("won")}>{money(won, currency)}</Link>
					</td>
				</tr>
				<tr className="total">
					<th scope="row">{won > target ? "the target is exceeded; the gap is" : "is missing"}</th>
					<td className="num">{money(gap, currency)}</td>
				</tr>
			</tbody>
		</table>
	);
}

function Targets({ view: { targets, target, currency } }: { view: MadeOf }) {
	if (!targets.length) return <p className="second mb-0">None of these people has a target for this period.</p>;
	return (
		<Scrolls of="Targets that count">
			<table className="table">
				<thead>
					<tr>
						<th scope="col">Person</th>
						<th scope="col">Days</th>
						<th scope="col" className="num">
							Target
						</th>
						<th scope="col" className="num">
							Days in the period
						</th>
						<th scope="col" className="num">
							Counts
						</th>
					</tr>
				</thead>
				<tbody>
					{targets.map((one) => (
						<tr key={`${one.person} ${one.start} ${one.end}`}>
							<th scope="row">{one.person}</th>
							<td className="text-nowrap">
								{longDate(one.start)} to {longDate(one.end)}
							</td>
							<td className="num">{money(one.amount, one.currency)}</td>
							<td className="num">{one.days === one.ofDays ? "all" : `${one.days} of ${one.ofDays}`}</td>
							<td className="num">{money(one.counts, currency)}</td>
						</tr>
					))}
					<tr className="total">
						<th scope="row">Total</th>
						<td colSpan={3} />
						<td className="num">{money(target ?? 0, currency)}</td>
					</tr>
				</tbody>
			</table>
		</Scrolls>
	);
}

function Contacts({ view: { of, people, contacts, count, workingDays }, days }: { view: MadeOf; days: Days }) {
	const opens = useOpens(days);
	if (!count) return <p className="second mb-0">{of === "contacts" ? "No contacts were made." : "All planned activities were done."}</p>;
	return (
		<>
			<p className="second">
				{of === "contacts"
					? `${plural(count, "contact")} in ${plural(workingDays, "working day")} of the period so far, by`
					: `${plural(count, "planned activity")} whose day has passed, by`}{" "}
				{people.map(({ id, name, count: n }, i) => (
					<span key={id}>
						{i > 0 && ", "}
						<Link href={opens.address("/period/made", { of, whose: `person:${id}` })}>{name}</Link> {grouped(n)}
					</span>
				))}
				.
			</p>
			<Scrolls of="Contacts">
				<table className="table">
					<thead>
						<tr>
							<th scope="col">{of === "contacts" ? "On" : "Planned for"}</th>
							<th scope="col">Who</th>
							<th scope="col">What</th>
							<th scope="col">Deal</th>
						</tr>
					</thead>
					<tbody>
						{contacts.map((one) => (
							<tr key={one.id}>
								<td className="text-nowrap">{longDate(one.day)}</td>
								<td className="text-nowrap">{one.person}</td>
								<td>
									<span className="second">{one.kind}</span> {one.subject}
								</td>
								<td>
									{one.deal ? (
										<Link href={opens.deal(one.deal.id)}>{one.deal.name}</Link>
									) : (
										<span className="third">{one.account ? "no deal" : "not visible to you"}</span>
									)}
									{one.account && <span className="second">, {one.account}</span>}
								</td>
							</tr>
						))}
					</tbody>
				</table>
			</Scrolls>
			<MoreRows shown={contacts.length} count={count} order="Newest first" />
		</>
	);
}
