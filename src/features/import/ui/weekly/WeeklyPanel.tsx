"use client";
import Link from "next/link";
import { useRef, useState } from "react";
import { Alert, Button, Form, Spinner } from "react-bootstrap";
import { plural } from "@/core/words/grammar";
import { longDate } from "@/ui/format";
import { useNotice } from "@/ui/Notices";
import { useRefresh } from "@/ui/useAct";
import type { WeeklyList } from "../../server/weekly/missing";
import type { WeeklyView } from "../../server/weekly/shapes";
import type { WeeklyTaken } from "../../server/weekly/take";
import { Effect } from "./Effect";
import { Files } from "./Files";
import { FirstStages } from "./FirstStages";
import { Mapping } from "./Mapping";
import { Missing } from "./Missing";
import { useWeekly } from "./useWeekly";

/** One CSV a week is history enough: it is looked at, mapped once, and taken in; what it no longer has is decided. */
export function WeeklyPanel({ list, today }: { list: WeeklyList; today: string }) {
	// Long: one page, its parts in their order.
	const notice = useNotice();
	const refresh = useRefresh();
	const picker = useRef<HTMLInputElement>(null);
	const [confirmed, setConfirmed] = useState<readonly string[]>([]);
	const [last, setLast] = useState<WeeklyTaken | null>(null);
	const weekly = useWeekly((taken) => {
		if (picker.current) picker.current.value = "";
		setConfirmed([]);
		setLast(taken.known ? null : taken);
		notice({
			words: taken.known
				? `This file was imported for ${longDate(taken.day)} already; nothing changed.`
				: `Imported for ${longDate(taken.day)}: ${taken.fresh} new, ${taken.changed} changed, ${taken.missing} missing.`,
		});
		refresh();
	});
	const { view, error, busy } = weekly;
	return (
		<div className="setup-two">
			<section className="panel">
				<h2>Import weekly file</h2>
				<p className="second">
					A team without history needs one CSV or workbook a week, one row per deal, with your own columns. Differences from the previous file become history on
					the file’s date. Files may come late, twice or in any order.
				</p>
				<Form.Group controlId="weekly-file" className="mb-3">
					<Form.Label>File</Form.Label>
					<Form.Control
						ref={picker}
						type="file"
						accept=".csv,.tsv,.txt,.xlsx,text/csv"
						onChange={(event) => {
							setConfirmed([]);
							weekly.pick((event.target as HTMLInputElement).files?.[0] ?? null);
						}}
					/>
				</Form.Group>
				{busy && (
					<p role="status" className="second">
						<Spinner as="span" size="sm" /> {busy === "looking" ? "Reading the file …" : "Importing the file …"}
					</p>
				)}
				{last?.before && !view && (
					<p>
						<Link className="btn btn-outline-primary" href={`/changes?due=any&seen=${last.day}&against=${last.before}`}>
							See what changed since {longDate(last.before)}
						</Link>
					</p>
				)}
				{error && (
					<Alert variant="danger" role="alert">
						{error}
					</Alert>
				)}
				{view && (
					<Looked
						view={view}
						weekly={weekly}
						today={today}
						confirmed={confirmed}
						setConfirmed={setConfirmed}
						onCancel={() => {
							if (picker.current) picker.current.value = "";
							weekly.pick(null);
						}}
					/>
				)}
			</section>
			<Files list={list} />
			<Missing list={list} />
		</div>
	);
}

interface LookedProps {
	readonly view: WeeklyView;
	readonly weekly: ReturnType<typeof useWeekly>;
	readonly today: string;
	/** keys of what was confirmed */
	readonly confirmed: readonly string[];
	readonly setConfirmed: (change: (now: readonly string[]) => readonly string[]) => void;
	readonly onCancel: () => void;
}

/** A file that was looked at: how it is read, what it would do, what has to be confirmed. */
export function Looked({ view, weekly, today, confirmed, setConfirmed, onCancel }: LookedProps) {
	const { busy, chosen } = weekly;
	return (
		<div className={busy ? "waiting" : ""} aria-busy={busy !== null}>
			<Mapping view={view} chosen={chosen} today={today} onChoose={weekly.choose} />
			{view.firstStages && <FirstStages key={view.firstStages.map((stage) => stage.name).join()} suggested={view.firstStages} onMade={weekly.again} />}
			<Effect view={view} onPlan={(change) => weekly.choose({ ...chosen, plan: { ...chosen.plan, ...change } })} onBadRows={weekly.badRows} />
			{view.asks.map((ask) => (
				<Alert key={ask.key} variant="warning" className="mt-3 mb-2">
					<p className="mb-2">{ask.words}</p>
					<Form.Check
						id={`weekly-ask-${ask.key}`}
						label={ask.yes}
						checked={confirmed.includes(ask.key)}
						onChange={(event) => setConfirmed((now) => [...now.filter((key) => key !== ask.key), ...(event.target.checked ? [ask.key] : [])])}
					/>
				</Alert>
			))}
			<div className="d-flex gap-2 mt-3">
				<Button disabled={!view.change || busy !== null || view.asks.some((ask) => !confirmed.includes(ask.key))} onClick={() => weekly.take(confirmed)}>
					{view.plan.goodOnly && view.goodRows ? `Import ${plural(view.goodRows, "row")}` : "Import"}
				</Button>
				<Button variant="outline-primary" onClick={onCancel}>
					Cancel
				</Button>
			</div>
		</div>
	);
}
