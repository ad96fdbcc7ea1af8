"use client";
import { useRef, useState } from "react";
import { Alert, Button, Form, Spinner } from "react-bootstrap";
import { plural } from "@/core/time/words";
import { longDate } from "@/ui/format";
import { useNotice } from "@/ui/Notices";
import { useRefresh } from "@/ui/useAct";
import type { WeeklyList } from "../../server/weekly/missing";
import { Effect } from "./Effect";
import { FirstStages } from "./FirstStages";
import { Mapping } from "./Mapping";
import { Missing } from "./Missing";
import { useWeekly } from "./useWeekly";

/** One CSV a week is history enough: it is looked at, mapped once, and taken in; what it no longer has is decided. */
export function WeeklyPanel({ list, today }: { list: WeeklyList; today: string }) {
	const notice = useNotice();
	const refresh = useRefresh();
	const picker = useRef<HTMLInputElement>(null);
	const [confirmed, setConfirmed] = useState(false);
	const weekly = useWeekly((taken) => {
		if (picker.current) picker.current.value = "";
		setConfirmed(false);
		notice({
			words: taken.known
				? `This file was taken in for ${longDate(taken.day)} already; nothing changed.`
				: `Taken in for ${longDate(taken.day)}: ${taken.fresh} new, ${taken.changed} changed, ${taken.missing} missing.`,
		});
		refresh();
	});
	const { view, error, busy } = weekly;
	const open = !view?.change;
	return (
		<div className="setup-two">
			<section className="panel">
				<h2>Take a weekly export in</h2>
				<p className="second">
					A team without history needs one CSV a week, a line a deal, with its own columns. What differs from the file before becomes history on the file’s day.
					Files may come late, twice or in any order.
				</p>
				<Form.Group controlId="weekly-file" className="mb-3">
					<Form.Label>The file</Form.Label>
					<Form.Control
						ref={picker}
						type="file"
						accept=".csv,.tsv,.txt,text/csv"
						onChange={(event) => {
							setConfirmed(false);
							weekly.pick((event.target as HTMLInputElement).files?.[0] ?? null);
						}}
					/>
				</Form.Group>
				{busy && (
					<p role="status" className="second">
						<Spinner as="span" size="sm" /> {busy === "looking" ? "Looking at the file …" : "Taking the file in …"}
					</p>
				)}
				{error && (
					<Alert variant="danger" role="alert">
						{error}
					</Alert>
				)}
				{view && (
					<div className={busy ? "waiting" : ""} aria-busy={busy !== null}>
						<Mapping view={view} chosen={weekly.chosen} today={today} onChoose={weekly.choose} />
						{view.firstStages && <FirstStages key={view.firstStages.map((stage) => stage.name).join()} suggested={view.firstStages} onMade={weekly.again} />}
						<Effect view={view} />
						{view.ask && (
							<Alert variant="warning" className="mt-3 mb-2">
								<p className="mb-2">{view.ask}</p>
								<Form.Check
									id="weekly-whole"
									label="Yes, this is the whole pipeline"
									checked={confirmed}
									onChange={(event) => setConfirmed(event.target.checked)}
								/>
							</Alert>
						)}
						<div className="d-flex gap-2 mt-3">
							<Button disabled={open || busy !== null || (view.ask !== null && !confirmed)} onClick={() => weekly.take(confirmed)}>
								Take it in
							</Button>
							<Button
								variant="outline-primary"
								onClick={() => {
									if (picker.current) picker.current.value = "";
									weekly.pick(null);
								}}
							>
								Leave it
							</Button>
						</div>
					</div>
				)}
			</section>
			<section className="panel">
				<h2>Files taken in</h2>
				{!list.files.length && <p className="second mb-0">None yet. From the second file on, every view of the past works.</p>}
				<ul className="rows small-text">
					{list.files.map((file) => (
						<li key={file.id}>
							<span>
								<b>{longDate(file.day)}</b> <span className="second">{file.name}</span>
							</span>
							<span className="second text-nowrap">
								{plural(file.rows, "deal")} · {file.by}
							</span>
						</li>
					))}
				</ul>
			</section>
			<Missing list={list} />
		</div>
	);
}
