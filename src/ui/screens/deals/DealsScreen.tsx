"use client";
import { parseAsArrayOf, parseAsString, parseAsStringLiteral, useQueryState } from "nuqs";
import { useCallback, useDeferredValue, useMemo, useRef, useState } from "react";
import { Button, Dropdown, Form } from "react-bootstrap";
import { useHotkeys } from "react-hotkeys-hook";
import type { DealRow, DealsView } from "@/usecases/readDeals";
import { money, shortMoney } from "../../format";
import { useTyped } from "../../keys";
import type { FrameView } from "../frame/view";
import { SheetPanel } from "../sheet/SheetPanel";
import { AssignDialog, type Draft } from "../tasks/AssignDialog";
import { AlsoOpen } from "./AlsoOpen";
import { DealTable } from "./DealTable";
import { FlagToggles } from "./FlagToggles";
import { SORTS, sortDeals } from "./sorts";
import "./deals.css";

interface Props {
	readonly view: DealsView;
	readonly frame: FrameView["sentence"];
	readonly mayAssign: boolean;
	/** the day a task is due unless another is chosen */
	readonly due: string;
}

const LIT = "lit";

function matches(row: DealRow, words: string): boolean {
	const text = `${row.name} ${row.account} ${row.owner} ${row.stage} ${row.nextStep ?? ""} ${row.flags.map((flag) => flag.label).join(" ")}`.toLowerCase();
	return words.split(/\s+/).every((word) => text.includes(word));
}

export function DealsScreen({ view, frame, mayAssign, due }: Props) {
	const options = { shallow: true, history: "replace" } as const;
	const [flags, setFlags] = useQueryState("flags", parseAsArrayOf(parseAsString).withDefault([]).withOptions(options));
	const [text, setText] = useQueryState("text", parseAsString.withDefault("").withOptions({ ...options, throttleMs: 300 }));
	const [sort, setSort] = useQueryState(
		"sort",
		parseAsStringLiteral(SORTS.map((s) => s.key))
			.withDefault("attention")
			.withOptions(options),
	);
	const [open, setOpen] = useQueryState("deal", parseAsString.withOptions({ shallow: true, history: "push" }));
	const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
	const [current, setCurrent] = useState<string | null>(open);
	const [draft, setDraft] = useState<Draft | null>(null);
	const search = useRef<HTMLInputElement>(null);
	const words = useDeferredValue(text.trim().toLowerCase());

	const searched = useMemo(() => (words ? view.rows.filter((row) => matches(row, words)) : view.rows), [view.rows, words]);
	const rows = useMemo(() => {
		const asked = flags.filter((flag) => flag !== LIT);
		const found = searched.filter(
			(row) => (!flags.includes(LIT) || row.level !== "calm") && (!asked.length || asked.some((code) => row.flags.some((flag) => flag.code === code))),
		);
		return sortDeals(found, sort);
	}, [searched, flags, sort]);

	const chosen = rows.filter((row) => selected.has(row.id));
	const total = rows.reduce((sum, row) => sum + row.amount, 0);
	const weighted = rows.reduce((sum, row) => sum + row.weighted, 0);
	const here = current && rows.some((row) => row.id === current) ? current : null;

	const show = useCallback(
		(id: string) => {
			setCurrent(id);
			void setOpen(id);
		},
		[setOpen],
	);
	const mark = useCallback(
		(id: string) =>
			setSelected((now) => {
				const next = new Set(now);
				if (!next.delete(id)) next.add(id);
				return next;
			}),
		[],
	);
	const move = (step: number) => {
		if (!rows.length) return;
		const at = rows.findIndex((row) => row.id === here);
		const next = rows[at < 0 ? 0 : Math.min(rows.length - 1, Math.max(0, at + step))];
		if (!next) return;
		setCurrent(next.id);
		if (open) void setOpen(next.id);
	};
	const assign = (deals: readonly DealRow[]) => mayAssign && deals.length > 0 && setDraft({ deals, title: "", flags: [], due });

	const busy = draft !== null;
	useHotkeys("j", () => move(1), { enabled: !busy });
	useHotkeys("k", () => move(-1), { enabled: !busy });
	useHotkeys("x", () => here && mark(here), { enabled: !busy });
	useHotkeys("enter", () => here && show(here), {
		enabled: !busy,
		ignoreEventWhen: (event) => (event.target as HTMLElement).closest("button,a,input") !== null,
	});
	useHotkeys("escape", () => void setOpen(null), { enabled: !busy && open !== null, enableOnFormTags: true });
	useHotkeys("t", () => assign(chosen.length ? chosen : rows.filter((row) => row.id === (open ?? here))), { enabled: !busy });
	useTyped(
		"/",
		(event) => {
			event.preventDefault();
			search.current?.focus();
		},
		!busy,
	);

	return (
		<div className={`deals ${open ? "with-sheet" : ""}`}>
			<section className="deals-list" aria-label="Deals">
				<div className="deals-tools no-print">
					<FlagToggles rows={searched} names={view.flagNames} on={flags} set={(next) => void setFlags(next.length ? next : null)} />
					<div className="deals-find">
						<Form.Control
							ref={search}
							type="search"
							size="sm"
							value={text}
							placeholder="Search"
							aria-label="Search deals, accounts, reps, next steps"
							onChange={(event) => void setText(event.target.value || null)}
							onKeyDown={(event) => {
								if (event.key === "Escape") {
									void setText(null);
									event.currentTarget.blur();
									event.stopPropagation();
								}
							}}
						/>
						<Dropdown align="end">
							<Dropdown.Toggle size="sm" variant="outline-primary">
								By {SORTS.find((s) => s.key === sort)?.words}
							</Dropdown.Toggle>
							<Dropdown.Menu>
								{SORTS.map((s) => (
									<Dropdown.Item as="button" type="button" key={s.key} active={s.key === sort} onClick={() => void setSort(s.key)}>
										By {s.words}
									</Dropdown.Item>
								))}
							</Dropdown.Menu>
						</Dropdown>
					</div>
				</div>
				{rows.length ? (
					<DealTable
						rows={rows}
						currency={view.currency}
						frame={frame}
						selected={selected}
						current={open ?? here}
						sheetOpen={open !== null}
						mayAssign={mayAssign}
						onOpen={show}
						onMark={mark}
						onMarkAll={(on) => setSelected(on ? new Set(rows.map((row) => row.id)) : new Set())}
						sort={sort}
						onSort={(key) => void setSort(key)}
					/>
				) : (
					<div className="panel empty">
						{view.rows.length ? (
							<>
								<h2>No deal fits</h2>
								<p>{view.rows.length} deals are due in this period; none has these words and flags.</p>
								<Button
									variant="outline-primary"
									onClick={() => {
										void setFlags(null);
										void setText(null);
									}}
								>
									Show all {view.rows.length}
								</Button>
							</>
						) : (
							<>
								<h2>No open deals here</h2>
								<p>Nobody of this choice has an open deal due in {frame.due.words}. Choose another period or team in the sentence above.</p>
							</>
						)}
					</div>
				)}
				<div className="deals-foot">
					<div className="small-text second">
						<b>{rows.length}</b> {rows.length === 1 ? "deal" : "deals"} ·{" "}
						<span title={money(total, view.currency)}>{shortMoney(total, view.currency)} open</span> ·{" "}
						<span title={`${money(weighted, view.currency)}: each amount times its stage's probability`}>{shortMoney(weighted, view.currency)} weighted</span>
						<AlsoOpen also={view.also} due={frame.due} />
					</div>
					{mayAssign && selected.size > 0 && (
						<div className="d-flex gap-2 align-items-center no-print">
							<span className="small-text" aria-live="polite">
								{chosen.length} selected ·{" "}
								{shortMoney(
									chosen.reduce((sum, row) => sum + row.amount, 0),
									view.currency,
								)}
							</span>
							<Button size="sm" disabled={!chosen.length} onClick={() => assign(chosen)}>
								{chosen.length > 1 ? "Give a task to each owner" : "Give a task"}
							</Button>
							<Button size="sm" variant="link" onClick={() => setSelected(new Set())}>
								Clear
							</Button>
						</div>
					)}
				</div>
			</section>
			{open && (
				<SheetPanel
					key={open}
					id={open}
					seen={frame.seen.day}
					against={frame.against.day}
					onClose={() => void setOpen(null)}
					onAssign={(given) => {
						const row = view.rows.find((r) => r.id === open);
						setDraft({ deals: [row ?? given.deal], title: given.title, flags: given.flags, due });
					}}
				/>
			)}
			{draft && (
				<AssignDialog
					draft={draft}
					today={frame.seen.day}
					onClose={(done) => {
						setDraft(null);
						if (done) setSelected(new Set());
					}}
				/>
			)}
		</div>
	);
}
