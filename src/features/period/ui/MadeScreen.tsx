"use client";
import Link from "next/link";
import { plural } from "@/core/words/grammar";
import { grouped, longDate, money } from "@/ui/format";
import { MoreRows } from "@/ui/parts/MoreRows";
import { DataTable } from "@/ui/parts/table/DataTable";
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
		<DataTable
			of="Targets that count"
			className=""
			tableClass=""
			rows={targets}
			rowKey={({ person, start, end }) => `${person} ${start} ${end}`}
			totals={[{ person: "Total", start: "", end: "", amount: 0, currency, days: 0, ofDays: 0, counts: target ?? 0 }]}
			rowClass={({ start }) => (start ? undefined : "total")}
			columns={[
				{ key: "person", label: "Person", names: true, by: ({ person }) => person, cell: ({ person }) => person },
				{
					key: "days",
					label: "Days",
					className: "text-nowrap",
					by: ({ start }) => start,
					cell: ({ start, end }) => start && `${longDate(start)} to ${longDate(end)}`,
				},
				{ key: "target", label: "Target", num: true, by: ({ amount }) => amount, cell: (one) => one.start && money(one.amount, one.currency) },
				{
					key: "part",
					label: "Days in the period",
					num: true,
					by: ({ days }) => days,
					cell: ({ start, days, ofDays }) => start && (days === ofDays ? "all" : `${days} of ${ofDays}`),
				},
				{ key: "counts", label: "Counts", num: true, by: ({ counts }) => counts, cell: ({ counts }) => money(counts, currency) },
			]}
		/>
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
			<DataTable
				of="Contacts"
				className=""
				tableClass=""
				rows={contacts}
				rowKey={({ id }) => id}
				columns={[
					{ key: "day", label: of === "contacts" ? "On" : "Planned for", className: "text-nowrap", by: ({ day }) => day, cell: ({ day }) => longDate(day) },
					{ key: "who", label: "Who", className: "text-nowrap", by: ({ person }) => person, cell: ({ person }) => person },
					{
						key: "what",
						label: "What",
						by: ({ kind, subject }) => `${kind} ${subject ?? ""}`,
						cell: ({ kind, subject }) => (
							<>
								<span className="second">{kind}</span> {subject}
							</>
						),
					},
					{
						key: "deal",
						label: "Deal",
						by: ({ deal, account }) => deal?.name ?? account,
						cell: ({ deal, account }) => (
							<>
								{deal ? <Link href={opens.deal(deal.id)}>{deal.name}</Link> : <span className="third">{account ? "no deal" : "not visible to you"}</span>}
								{account && <span className="second">, {account}</span>}
							</>
						),
					},
				]}
			/>
			<MoreRows shown={contacts.length} count={count} order="Newest first" />
		</>
	);
}
