"use client";
import { useState } from "react";
import type { AttachmentView } from "@/features/attachments";
import { AttachedTo } from "@/features/attachments/ui/AttachedTo";
import { longDate, nearDate } from "@/ui/format";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { Happening } from "../server/timeline";

const FILTERS = [
	{ key: "all", label: "All" },
	{ key: "contact", label: "Contacts" },
	{ key: "change", label: "Changes" },
	{ key: "answer", label: "Answers" },
	{ key: "note", label: "Notes" },
	{ key: "task", label: "Tasks" },
	{ key: "quote", label: "Quotes" },
	{ key: "internal", label: "Internal" },
] as const;
const SIGNS: Readonly<Record<string, [sign: string, words: string]>> = {
	in: ["←", "they to us"],
	out: ["→", "we to them"],
	both: ["↔", "a conversation"],
	none: ["·", "internal"],
};
const SHOWN = 25;

interface Shown {
	readonly files: readonly AttachmentView[];
	readonly seen: string;
	readonly past: boolean;
}
interface TimelineProps extends Shown {
	readonly list: readonly Happening[];
	readonly mayNote: boolean;
}

/** One timeline of all that happened, newest on top, what is planned apart. */
export function Timeline({ list, mayNote, ...rest }: TimelineProps) {
	const [kind, setKind] = useState<string>("all");
	const [all, setAll] = useState(false);
	const found = list.filter((item) => kind === "all" || item.kind === kind);
	const planned = found.filter((item) => item.planned);
	const past = found.filter((item) => !item.planned);
	const shown = all ? past : past.slice(0, SHOWN);
	return (
		<section>
			<h3>Timeline</h3>
			<div className="happening-filter no-print" role="group" aria-label="Show only">
				{FILTERS.map((filter) => (
					<button key={filter.key} type="button" className="flag-toggle" aria-pressed={kind === filter.key} onClick={() => setKind(filter.key)}>
						{filter.label}
					</button>
				))}
			</div>
			{found.length === 0 && <p className="second small-text">No entries of this kind.</p>}
			{planned.length > 0 && (
				<>
					<h4 className="area">Planned</h4>
					<ul className="happenings">
						{[...planned].reverse().map((item) => (
							<Line key={item.id ?? item.at + item.what} item={item} mayNote={mayNote} {...rest} />
						))}
					</ul>
					<h4 className="area">Past</h4>
				</>
			)}
			<ul className="happenings">
				{shown.map((item, i) => (
					<Line key={item.at + item.what + String(i)} item={item} {...rest} />
				))}
			</ul>
			{past.length > shown.length && (
				<button type="button" className="plain-button small-text second mt-2" onClick={() => setAll(true)}>
					Show {past.length - shown.length} older
				</button>
			)}
		</section>
	);
}

function Line({ item, files, seen, past, mayNote = false }: Shown & { item: Happening; mayNote?: boolean }) {
	const run = useRun();
	const act = useAct();
	const [sign, words] = SIGNS[item.direction ?? ""] ?? ["–", item.kind];
	return (
		<li className={item.planned ? "planned" : undefined}>
			<span className="third" title={longDate(item.day)}>
				{nearDate(item.day, seen)}
			</span>
			<span title={item.planned ? "planned" : words}>
				{item.planned ? "○" : sign}
				<span className="visually-hidden"> {item.planned ? "planned" : words}</span>
			</span>
			<span>
				{item.what}
				{item.detail && <span className="d-block second">“{item.detail}”</span>}
				{item.by && <span className="d-block tiny second">{item.by}</span>}
				<AttachedTo activity={item.id} files={files} seen={seen} past={past} />
				{item.planned && item.id && (
					<a className="tiny second no-print" href={`/calendar/activity/${encodeURIComponent(item.id)}.ics`}>
						.ics
					</a>
				)}
				{item.planned && item.id && mayNote && (
					<button
						type="button"
						className="plain-button tiny no-print"
						onClick={() => void act(run("sheet.settleActivity", { id: item.id as string, what: "done" }), "Marked as done.")}
					>
						Mark done
					</button>
				)}
				{item.planned && item.id && mayNote && (
					<button
						type="button"
						className="plain-button tiny no-print ms-2"
						onClick={() => {
							const ids = [item.id as string];
							void act(run("accounts.settle", { what: "dropped", ids }), "Dropped.", () => run("accounts.settle", { what: "planned", ids }));
						}}
					>
						Drop
					</button>
				)}
			</span>
		</li>
	);
}
