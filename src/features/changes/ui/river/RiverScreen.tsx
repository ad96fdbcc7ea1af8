"use client";
import Link from "next/link";
import { parseAsString, parseAsStringLiteral, useQueryState } from "nuqs";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Alert, Button, Form, Spinner } from "react-bootstrap";
import { useHotkeys } from "react-hotkeys-hook";
import { formatDay } from "@/core/time/day";
import { shortDay, spokenDay } from "@/core/time/words";
import { sheetAddress } from "@/features/sheet/ui/SheetBody";
import { dayNumber, money } from "@/ui/format";
import type { FrameView } from "@/ui/frame/view";
import { Fetching, NotFetched, usePacked } from "@/ui/usePacked";
import type { RiverView } from "../../server/readRiver";
import { finding } from "./finding";
import { draw, drawThread } from "./geometry";
import { RiverPicture } from "./RiverPicture";
import { PartsTable, WeeksTable } from "./RiverTables";
import { unpackRiver } from "./unpack";
import { PACES, usePlay } from "./usePlay";
import { useAnswer, useRiver } from "./useRiver";
import { WeekPanel } from "./WeekPanel";
import "./river.css";

const HEIGHT = 470;
const LEAST_WIDTH = 560;
const shallow = { shallow: true, history: "replace" } as const;

/** The river of a sentence; where it is large, it comes after the page. */
export function RiverScreen({ packed, rest, frame }: { packed: string | null; rest: string; frame: FrameView["sentence"] }) {
	const { value, failed, again } = usePacked(packed, rest, unpackRiver);
	if (failed) return <NotFetched again={again} />;
	return value ? <Flowing view={value} frame={frame} /> : <Fetching words="Fetching the river …" />;
}

/** The pipeline through time in one picture, with a date that can be dragged, stepped and set running. */
function Flowing({ view, frame }: { view: RiverView; frame: FrameView["sentence"] }) {
	const fields = view.fields.map((field) => field.key);
	const [by, setBy] = useQueryState("by", parseAsStringLiteral(fields).withDefault("rep").withOptions(shallow));
	const byWords = view.fields.find((field) => field.key === by)?.words ?? by;
	const [only, setOnly] = useQueryState("only", parseAsString.withOptions(shallow));
	const [, setSpan] = useQueryState("span", parseAsString.withOptions({ shallow: false, history: "push" }));
	const [at, setAt] = useQueryState("at", parseAsString.withOptions(shallow));
	const [threadId, setThreadId] = useQueryState("thread", parseAsString.withOptions(shallow));
	const [pace, setPace] = useState<(typeof PACES)[number]["key"]>("calm");
	const [pointed, setPointed] = useState<number | null>(null);

	const cut = only && view.slices[by].parts.includes(only) ? { field: by, part: only } : null;
	const { model, picture, failed } = useRiver(view, cut);
	const [box, width] = useWidth();
	const drawing = useMemo(() => (picture && width ? draw(picture, { width: Math.max(LEAST_WIDTH, width), height: HEIGHT }) : null), [picture, width]);

	const axis = useMemo(() => (drawing ? axisOf(view, drawing.xs) : []), [view, drawing]);
	const stageNames = useMemo(() => view.columns.stages.map((stage) => stage.name), [view]);

	const [first, last] = [dayNumber(view.first), dayNumber(view.last)];
	const line = useRef<HTMLDivElement>(null);
	const flag = useRef<HTMLDivElement>(null);
	const range = useRef<HTMLInputElement>(null);
	const marked = useRef<number | null>(null);
	const x0 = drawing?.xs[0] ?? 0;
	const x1 = drawing?.xs.at(-1) ?? 0;
	// The state before the first day is at the left edge, a day's end a day's width to the right of it.
	const xOf = (day: number) => x0 + ((x1 - x0) * (day - first + 1)) / (last - first + 1);
	const glide = (day: number) => {
		const x = xOf(day);
		if (line.current) line.current.style.transform = `translateX(${x}px)`;
		const whole = Math.round(day);
		if (whole === marked.current) return;
		// What is written is drawn anew with whole days only.
		marked.current = whole;
		if (range.current) range.current.value = String(whole);
		if (!flag.current) return;
		flag.current.textContent = shortDay(whole);
		// The flag keeps its whole width within the picture.
		flag.current.style.transform = `translateX(${Math.min(0, (drawing?.size.width ?? 0) - 49 - x)}px)`;
	};
	const asked = at ? dayNumber(at) : last;
	const { day, go, running, setRunning } = usePlay(
		first,
		last,
		asked >= first && asked <= last ? asked : last,
		pace,
		glide,
		(at) => view.weeks.find((one) => at <= one.end)?.end ?? last,
	);
	// biome-ignore lint/correctness/useExhaustiveDependencies: the line is put in its place whenever the drawing is new
	useEffect(() => {
		marked.current = null;
		glide(day);
	}, [drawing]);
	useEffect(() => {
		if (!running) void setAt(day === last ? null : formatDay(day));
	}, [running, day, last, setAt]);

	const week = Math.max(
		0,
		view.weeks.findIndex((one) => day <= one.end),
	);
	const key = `${view.first} ${view.last} ${by} ${cut?.part ?? ""} ${picture ? "" : "none"}`;
	const lines = useAnswer(model, `${key} ${week}`, (m) => m.week(week));
	const stood = useAnswer(model, `${key} ${day}`, (m) => m.on(day));
	const parts = useAnswer(model, `${view.first} ${view.last} ${by}`, (m) => m.parts(by));
	const reps = useAnswer(model, `${view.first} ${view.last}`, (m) => m.parts("rep"));
	const pinned = threadId === null ? null : view.deals.findIndex((deal) => deal.id === threadId);
	const drawn = pointed ?? (pinned !== null && pinned >= 0 ? pinned : null);
	const way = useAnswer(model, `${key} ${drawn}`, async (m) => (drawn === null ? null : { deal: drawn, points: await m.thread(drawn) }));
	const thread = drawing && way && way.deal === drawn ? drawThread(drawing, way.points) : null;

	const step = (days: number) => {
		setRunning(0);
		go(day + days);
	};
	const weekStep = (way: 1 | -1) => {
		const ends = view.weeks.map((one) => one.end);
		setRunning(0);
		go(way > 0 ? (ends.find((end) => end > day) ?? last) : (ends.findLast((end) => end < day) ?? first));
	};
	useHotkeys("left", () => weekStep(-1), { preventDefault: true });
	useHotkeys("right", () => weekStep(1), { preventDefault: true });
	useHotkeys("shift+left", () => step(-1));
	useHotkeys("shift+right", () => step(1));
	useHotkeys("space", () => setRunning(running ? 0 : 1), { preventDefault: true }, [running]);

	const seen = formatDay(day);
	// A day before the earlier moment is compared with the week before it.
	const against = frame.against.day < seen ? frame.against.day : formatDay(day - 7);
	const sheet = (id: string) => sheetAddress({ id, past: day < last || frame.seen.past, seen, against });
	const jump = useCallback(
		(to: number) => {
			setRunning(0);
			go(to);
		},
		[go, setRunning],
	);
	// While the date runs, the tables are left alone but when the week is another one.
	const tables = useMemo(
		() => (
			<>
				{parts && (
					<PartsTable
						parts={parts}
						field={byWords}
						chosen={only}
						currency={view.currency}
						seen={frame.seen.past ? `on ${frame.seen.words}` : "today"}
						onPick={(part) => void setOnly(part)}
					/>
				)}
				{picture && <WeeksTable picture={picture} view={view} current={week} onPick={jump} />}
			</>
		),
		[parts, byWords, only, view, frame.seen, setOnly, picture, week, jump],
	);

	if (failed)
		return <Alert variant="warning">The river couldn’t be computed in this browser. Load the page again; the other views of these days work without it.</Alert>;
	if (!view.deals.length)
		return (
			<div className="empty">
				<h2>Nothing flowed here</h2>
				<p>
					No deal of these people was due in the period between {view.first} and {view.last}. Choose another period or a longer span.
				</p>
				<SpanSelect view={view} onChange={(span) => void setSpan(span)} />
			</div>
		);
	const found = picture && reps ? finding(picture, reps, view) : null;
	const told = drawn === null ? null : view.deals[drawn];
	return (
		<>
			<div className="changes-top river">
				<section className="panel" ref={box}>
					<h2>{found?.headline ?? "Computing the river …"}</h2>
					<p className="second small-text mb-1">
						{found?.pushes} {cut && `Only ${byWords} ${cut.part}; the pushes are everyone’s.`}
					</p>
					<div className="river-controls no-print">
						<SpanSelect view={view} onChange={(span) => void setSpan(span)} />
						<Form.Select
							size="sm"
							aria-label="Slice by"
							value={by}
							onChange={(event) => {
								void setOnly(null);
								void setBy(event.target.value as typeof by);
							}}
						>
							{view.fields.map((one) => (
								<option key={one.key} value={one.key}>
									by {one.words}
								</option>
							))}
						</Form.Select>
						<Form.Select size="sm" aria-label="Part" value={cut?.part ?? ""} onChange={(event) => void setOnly(event.target.value || null)}>
							<option value="">all</option>
							{view.slices[by].parts.map((part) => (
								<option key={part}>{part}</option>
							))}
						</Form.Select>
					</div>
					<div className="river-scroll">
						{drawing && picture ? (
							<RiverPicture
								drawing={drawing}
								picture={picture}
								stageNames={stageNames}
								currency={view.currency}
								week={week}
								thread={thread}
								line={line}
								flag={flag}
								axis={axis}
								onDrag={(x) => {
									setRunning(0);
									go(first - 1 + ((x - x0) / Math.max(1, x1 - x0)) * (last - first + 1));
								}}
								onDrop={() => go(Math.round(day))}
								onPoint={async (place) => setPointed(place && model ? await model.dealAt(place.boundary, place.stage, place.height) : null)}
								onPick={() => void setThreadId(pointed === null ? null : (view.deals[pointed]?.id ?? null))}
							/>
						) : (
							<div className="river-wait" style={{ height: HEIGHT }}>
								<Spinner size="sm" /> {view.deals.length} deals
							</div>
						)}
						<Form.Range
							ref={range}
							className="river-range no-print"
							aria-label="The date"
							aria-valuetext={spokenDay(day)}
							min={first - 1}
							max={last}
							defaultValue={day}
							onChange={(event) => {
								setRunning(0);
								go(Number(event.target.value));
							}}
						/>
					</div>
					<div className="river-controls no-print">
						<Button size="sm" variant={running === -1 ? "primary" : "outline-primary"} onClick={() => setRunning(running === -1 ? 0 : -1)}>
							{running === -1 ? "Stop" : "Run back"}
						</Button>
						<Button size="sm" variant="outline-primary" onClick={() => weekStep(-1)}>
							Week back
						</Button>
						<Button size="sm" variant="outline-primary" onClick={() => weekStep(1)}>
							Week on
						</Button>
						<Button size="sm" variant={running === 1 ? "primary" : "outline-primary"} onClick={() => setRunning(running === 1 ? 0 : 1)}>
							{running === 1 ? "Stop" : "Run"}
						</Button>
						<Form.Select size="sm" aria-label="Pace" value={pace} onChange={(event) => setPace(event.target.value as typeof pace)}>
							{PACES.map((one) => (
								<option key={one.key} value={one.key}>
									{one.words}
								</option>
							))}
						</Form.Select>
						<span className="third tiny">← → a week, with Shift a day; space runs</span>
					</div>
				</section>
				<section className="panel river-side" aria-label="The week of the date">
					<div className="river-told" aria-live="polite">
						{told ? (
							<>
								<b>{told.name}</b>{" "}
								<span className="second">
									{told.account} · {told.owner}
								</span>
								<span className="d-flex justify-content-between">
									<span>{money(way?.points.findLast((one) => one)?.amount ?? 0, view.currency)}</span>
									<Link href={sheet(told.id)}>Open the sheet</Link>
								</span>
							</>
						) : (
							<span className="third">Point at a band to draw the thread of the deal that lies there; click to keep it.</span>
						)}
					</div>
					{lines && stood && view.weeks[week] && (
						<WeekPanel
							title={`Week of ${shortDay(view.weeks[week]?.start ?? first)}`}
							lines={lines}
							stood={stood}
							day={spokenDay(day)}
							view={view}
							sheet={sheet}
							onPoint={setPointed}
						/>
					)}
				</section>
			</div>
			{tables}
		</>
	);
}

function SpanSelect({ view, onChange }: { view: RiverView; onChange: (span: string | null) => void }) {
	return (
		<Form.Select
			size="sm"
			className="w-auto"
			aria-label="Span"
			value={view.span}
			onChange={(event) => onChange(event.target.value === "halves" ? null : event.target.value)}
		>
			{view.spans.map((one) => (
				<option key={one.key} value={one.key}>
					{one.words}
				</option>
			))}
		</Form.Select>
	);
}

/** Words for the week's starts along the axis, as many as have room. */
function axisOf(view: RiverView, xs: readonly number[]): { x: number; words: string }[] {
	const step = (xs[1] ?? 0) - (xs[0] ?? 0);
	const every = Math.max(1, Math.ceil(62 / Math.max(1, step)));
	return view.weeks.flatMap((week, w) => (w % every === 0 ? [{ x: (xs[w] as number) + step / 2, words: shortDay(week.start) }] : []));
}

/** The width of an element as it is laid out, in pixels. */
function useWidth() {
	const box = useRef<HTMLElement>(null);
	const [width, setWidth] = useState(0);
	useEffect(() => {
		if (!box.current) return;
		const observer = new ResizeObserver(([entry]) => setWidth(Math.floor(entry?.contentRect.width ?? 0)));
		observer.observe(box.current);
		return () => observer.disconnect();
	}, []);
	return [box, width] as const;
}
