"use client";
import Link from "next/link";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { plural } from "@/core/words/grammar";
import { nearDate } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import { DayField } from "@/ui/parts/DayField";
import type { TableColumn } from "@/ui/parts/table/column";
import { DataTable } from "@/ui/parts/table/DataTable";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { ActivitiesView, ActivityLine } from "../server/readActivities";
import { ActivityDays } from "./ActivityDays";
import { ACTIVITIES, ActivityFilters, kept } from "./ActivityFilters";
import "@/ui/parts/parts.css";
import "@/features/deals/ui/deals.css";
import "./account.css";

/** What was done with buyers and what is planned, by person against what is usual for each; what was left undone is settled here. */
export function ActivitiesScreen({ view }: { view: ActivitiesView }) {
	const address = useAddress();
	const { people, who, undone } = view;
	const touches = people.reduce((sum, one) => sum + one.touches, 0);
	const left = people.reduce((sum, one) => sum + one.notDone, 0);
	const chosen = people.find(({ id }) => id === who);
	return (
		<div className="activities">
			<h2>
				{plural(touches, "contact")} from {nearDate(view.from, view.seen)} to {nearDate(view.to, view.seen)};{" "}
				{left ? `${left} planned left undone` : "nothing planned left undone"}
			</h2>
			<ActivityFilters view={view} />
			<DataTable
				of="Contacts by person"
				className="panel p-0"
				tableClass="activities-table"
				rows={people}
				rowKey={({ id }) => id}
				columns={columnsOf(view, (id) => address(ACTIVITIES, { ...kept(view), who: id }))}
				empty={<p className="second">Nobody of these people worked in this span.</p>}
			/>
			{chosen && (
				<p className="small-text mt-3 mb-0">
					Below: {chosen.name} alone. <Link href={address(`/people/${encodeURIComponent(chosen.id)}`)}>Open their page</Link>, or{" "}
					<Link href={address(ACTIVITIES, { ...kept(view), who: null })}>show everybody</Link>.
				</p>
			)}
			{view.entries && <ActivityDays view={view} entries={view.entries} />}
			<div className="activities-two">
				<Undone key={undone.map(({ id }) => id).join()} lines={undone} view={view} />
				{!view.entries && <Done view={view} />}
			</div>
		</div>
	);
}

function Done({ view: { done, moreDone, seen } }: { view: ActivitiesView }) {
	return (
		<section className="panel" aria-label="Done">
			<h3>Done</h3>
			<ul className="rows small-text">
				{done.map((line) => (
					<Line key={line.id} line={line} seen={seen} />
				))}
				{!done.length && <li className="second">Nothing was done in this span.</li>}
			</ul>
			{moreDone && <p className="tiny second mb-0">The newest {done.length} are shown. Choose a person, or a shorter span, to see the others.</p>}
		</section>
	);
}

type Person = ActivitiesView["people"][number];

const rate = (value: number | null) => (value === null ? "–" : value.toFixed(1));

const columnsOf = (view: ActivitiesView, href: (id: string) => string): TableColumn<Person>[] => [
	{
		key: "name",
		label: "Person",
		cell: ({ id, name }) => (
			<Link href={href(id)} aria-current={view.who === id ? "true" : undefined}>
				{name}
			</Link>
		),
		by: ({ name }) => name,
	},
	{ key: "touches", label: "Contacts", num: true, cell: ({ touches }) => touches, by: ({ touches }) => touches },
	{ key: "days", label: "Working days", num: true, cell: ({ workingDays }) => workingDays, by: ({ workingDays }) => workingDays },
	{ key: "perDay", label: "A working day", num: true, cell: ({ perDay }) => rate(perDay), by: ({ perDay }) => perDay ?? null },
	{ key: "usual", label: "Usual", num: true, cell: ({ usual }) => rate(usual), by: ({ usual }) => usual ?? null },
	{ key: "kinds", label: "By kind", cell: ({ kinds }) => <span className="second">{kinds.map(({ kind, count }) => `${kind} ${count}`).join(", ")}</span> },
	{ key: "planned", label: "Planned", num: true, cell: ({ planned }) => planned, by: ({ planned }) => planned },
	{
		key: "notDone",
		label: "Left undone",
		num: true,
		cell: ({ notDone }) => (notDone ? <b className="worse">{notDone}</b> : 0),
		by: ({ notDone }) => notDone,
	},
];

/** What was planned and not done: each is said to be done, dropped, or dated again, singly or several at once. */
function Undone({ lines, view }: { lines: readonly ActivityLine[]; view: ActivitiesView }) {
	const [marked, setMarked] = useState<ReadonlySet<string>>(new Set());
	const [day, setDay] = useState(view.seen);
	const run = useRun();
	const act = useAct();
	const ids = [...marked];
	const mark = (id: string, on: boolean) => setMarked(new Set(on ? [...ids, id] : ids.filter((one) => one !== id)));
	const done = () =>
		act(run("accounts.settle", { what: "done", ids }), `${plural(ids.length, "activity", "activities")} done.`, () =>
			run("accounts.settle", { what: "planned", ids }),
		);
	const drop = () =>
		act(run("accounts.settle", { what: "dropped", ids }), `${plural(ids.length, "activity", "activities")} dropped.`, () =>
			run("accounts.settle", { what: "planned", ids }),
		);
	const move = () => {
		const to = ids.map((id) => ({ id, day }));
		return act(run("accounts.settle", { what: "moved", to }), `${plural(ids.length, "activity", "activities")} moved.`, ({ before }) =>
			run("accounts.settle", { what: "moved", to: before }),
		);
	};
	return (
		<section className="panel" aria-label="Planned and left undone">
			<h3>Planned and left undone</h3>
			{view.mayWrite && lines.length > 0 && (
				<div className="d-flex gap-2 align-items-center flex-wrap mb-2 no-print">
					<Button size="sm" variant="outline-primary" disabled={!ids.length} onClick={() => void done()}>
						Done
					</Button>
					<Button size="sm" variant="outline-primary" disabled={!ids.length} onClick={() => void drop()}>
						Drop
					</Button>
					<Button size="sm" variant="outline-primary" disabled={!ids.length} onClick={() => void move()}>
						Move to
					</Button>
					<DayField size="sm" aria-label="Move to" value={day} onDay={(next) => setDay(next || view.seen)} />
				</div>
			)}
			<ul className="rows small-text">
				{lines.map((line) => (
					<Line
						key={line.id}
						line={line}
						seen={view.seen}
						mark={view.mayWrite && line.open ? { on: marked.has(line.id), set: (on) => mark(line.id, on) } : null}
					/>
				))}
				{!lines.length && <li className="second">Nothing was left undone.</li>}
			</ul>
		</section>
	);
}

interface LineProps {
	readonly line: ActivityLine;
	readonly seen: string;
	readonly mark?: { readonly on: boolean; readonly set: (on: boolean) => void } | null;
}

function Line({ line, seen, mark = null }: LineProps) {
	const address = useAddress();
	const { id, day, person, kind, subject, deal, account } = line;
	return (
		<li>
			<span className="d-flex gap-2">
				{mark && (
					<Form.Check aria-label={`Select ${subject ?? kind}`} id={`undone-${id}`} checked={mark.on} onChange={({ target }) => mark.set(target.checked)} />
				)}
				<span>
					{subject ?? "On a deal that you don’t see"}
					<span className="d-block tiny second">
						{[kind, person].join(" · ")}
						{deal && (
							<>
								{" · "}
								<Link href={address(`/deals/${encodeURIComponent(deal.id)}`)}>{deal.name}</Link>
							</>
						)}
						{account && (
							<>
								{" · "}
								<Link href={address(`/accounts/${encodeURIComponent(account.id)}`)}>{account.name}</Link>
							</>
						)}
					</span>
				</span>
			</span>
			<span className="second text-nowrap">{nearDate(day, seen)}</span>
		</li>
	);
}
