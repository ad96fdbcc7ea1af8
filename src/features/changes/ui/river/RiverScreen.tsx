"use client";
import { parseAsString, parseAsStringLiteral, useQueryState } from "nuqs";
import { memo, useMemo, useState } from "react";
import { Alert, Form, Spinner } from "react-bootstrap";
import { formatDay } from "@/core/time/day";
import { shortDay, spokenDay } from "@/core/time/words";
import { sheetAddress } from "@/features/sheet/ui/SheetBody";
import type { FrameView } from "@/ui/frame/view";
import { useWidth } from "@/ui/parts/useWidth";
import { Fetching, NotFetched, usePacked } from "@/ui/usePacked";
import type { Cut, PartFigures, Picture } from "@/workers/riverModel";
import type { RiverView } from "../../server/readRiver";
import { axisOf } from "./axis";
import { finding } from "./finding";
import { draw } from "./geometry";
import { Running, Slicing, SpanSelect } from "./RiverControls";
import { RiverPicture } from "./RiverPicture";
import { RiverSide } from "./RiverSide";
import { PartsTable, WeeksTable } from "./RiverTables";
import { unpackRiver } from "./unpack";
import type { Pace } from "./usePlay";
import { type Model, useAnswer, useRiver } from "./useRiver";
import { useRiverDate } from "./useRiverDate";
import { useThread } from "./useThread";
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
	// Long: one page, its parts in their order.
	const { by, byWords, only, cut, setBy, setOnly, setSpan } = useSlice(view);
	const [pace, setPace] = useState<Pace>("calm");
	const { model, picture, failed } = useRiver(view, cut);
	const { box, drawing, axis } = useDrawing(view, picture);
	const stageNames = useMemo(() => view.columns.stages.map((stage) => stage.name), [view]);
	const date = useRiverDate(view, drawing, pace);
	const { day, week, jump } = date;

	const { key, lines, stood, parts, reps } = useFigures(view, model, { by, cut, week, day, drawn: picture !== null });
	const thread = useThread(view, model, drawing, key);

	const seen = formatDay(day);
	// A day before the earlier moment is compared with the week before it.
	const against = frame.against.day < seen ? frame.against.day : formatDay(day - 7);
	const sheet = (id: string) => sheetAddress({ id, past: day < date.last || frame.seen.past, seen, against });
	if (failed)
		return <Alert variant="warning">The river couldn’t be computed in this browser. Reload the page; the other views of these days still work.</Alert>;
	if (!view.deals.length) return <NothingFlowed view={view} onSpan={setSpan} />;
	const found = picture && reps ? finding(picture, reps, view) : null;
	const shownWeek = view.weeks[week];
	return (
		<>
			<div className="changes-top river">
				<section className="panel" ref={box}>
					<h2>{found?.headline ?? "Computing the river …"}</h2>
					<p className="second small-text mb-1">
						{found?.pushes} {cut && `Only ${byWords} ${cut.part}; the pushes are everyone’s.`}
					</p>
					<Slicing view={view} by={by} part={cut?.part ?? null} onSpan={setSpan} onBy={setBy} onPart={(part) => void setOnly(part)} />
					<div className="river-scroll">
						{drawing && picture ? (
							<RiverPicture
								drawing={drawing}
								picture={picture}
								stageNames={stageNames}
								currency={view.currency}
								week={week}
								thread={thread.path}
								line={date.line}
								flag={date.flag}
								axis={axis}
								onDrag={(x) => jump(date.dayAt(x))}
								onDrop={() => date.go(Math.round(day))}
								onPoint={async (place) => thread.point(place && model ? await model.dealAt(place.boundary, place.stage, place.height) : null)}
								onPick={thread.keep}
							/>
						) : (
							<div className="river-wait" style={{ height: HEIGHT }}>
								<Spinner size="sm" /> {view.deals.length} deals
							</div>
						)}
						<DateRange date={date} />
					</div>
					<Running date={date} pace={pace} onPace={setPace} />
				</section>
				<RiverSide thread={thread} currency={view.currency} sheet={sheet}>
					{lines && stood && shownWeek && (
						<WeekPanel
							title={`Week of ${shortDay(shownWeek.start)}`}
							lines={lines}
							stood={stood}
							day={spokenDay(day)}
							view={view}
							sheet={sheet}
							onPoint={thread.point}
						/>
					)}
				</RiverSide>
			</div>
			<Tables view={view} parts={parts} field={byWords} only={only} setOnly={setOnly} picture={picture} week={week} jump={jump} frame={frame} />
		</>
	);
}

/** The picture in the room there is. */
function useDrawing(view: RiverView, picture: Picture | null) {
	const [box, width] = useWidth();
	const drawing = useMemo(() => (picture && width ? draw(picture, { width: Math.max(LEAST_WIDTH, width), height: HEIGHT }) : null), [picture, width]);
	const axis = useMemo(() => (drawing ? axisOf(view.weeks, drawing.xs) : []), [view, drawing]);
	return { box, drawing, axis };
}

function DateRange({ date }: { date: ReturnType<typeof useRiverDate> }) {
	return (
		<Form.Range
			ref={date.range}
			className="river-range no-print"
			aria-label="The date"
			aria-valuetext={spokenDay(date.day)}
			min={date.first - 1}
			max={date.last}
			defaultValue={date.day}
			onChange={(event) => date.jump(Number(event.target.value))}
		/>
	);
}

interface TablesProps {
	readonly view: RiverView;
	readonly parts: readonly PartFigures[] | null;
	readonly field: string;
	readonly only: string | null;
	readonly setOnly: (part: string | null) => unknown;
	readonly picture: Picture | null;
	readonly week: number;
	readonly jump: ReturnType<typeof useRiverDate>["jump"];
	readonly frame: FrameView["sentence"];
}

/** The same in tables. While the date runs, they are left alone but when the week is another one. */
const Tables = memo(function Tables({ view, parts, field, only, setOnly, picture, week, jump, frame }: TablesProps) {
	return (
		<>
			{parts && (
				<PartsTable
					parts={parts}
					field={field}
					chosen={only}
					currency={view.currency}
					seen={frame.seen.past ? `on ${frame.seen.label}` : "today"}
					onPick={(part) => void setOnly(part)}
				/>
			)}
			{picture && <WeeksTable picture={picture} view={view} current={week} onPick={jump} />}
		</>
	);
});

/** What the picture's thread of its own answers about the day and the week that are looked at. */
function useFigures(
	view: RiverView,
	model: Model | null,
	{ by, cut, week, day, drawn }: { by: string; cut: Cut | null; week: number; day: number; drawn: boolean },
) {
	const key = `${view.first} ${view.last} ${by} ${cut?.part ?? ""} ${drawn ? "" : "none"}`;
	const lines = useAnswer(model, `${key} ${week}`, (m) => m.week(week));
	const stood = useAnswer(model, `${key} ${day}`, (m) => m.on(day));
	const parts = useAnswer(model, `${view.first} ${view.last} ${by}`, (m) => m.parts(by));
	const reps = useAnswer(model, `${view.first} ${view.last}`, (m) => m.parts("rep"));
	return { key, lines, stood, parts, reps };
}

/** By what the river is cut, and which part of it is shown; in the address. */
function useSlice(view: RiverView) {
	const fields = view.fields.map((field) => field.key);
	const [by, setBy] = useQueryState("by", parseAsStringLiteral(fields).withDefault("rep").withOptions(shallow));
	const [only, setOnly] = useQueryState("only", parseAsString.withOptions(shallow));
	const [, setSpan] = useQueryState("span", parseAsString.withOptions({ shallow: false, history: "push" }));
	return {
		by,
		byWords: view.fields.find((field) => field.key === by)?.label ?? by,
		only,
		cut: only && view.slices[by].parts.includes(only) ? { field: by, part: only } : null,
		setBy: (next: typeof by) => {
			void setOnly(null);
			void setBy(next);
		},
		setOnly,
		setSpan: (span: string | null) => void setSpan(span),
	};
}

function NothingFlowed({ view, onSpan }: { view: RiverView; onSpan: (span: string | null) => void }) {
	return (
		<div className="empty">
			<h2>No movement here</h2>
			<p>
				No deals of these people were due in the period between {view.first} and {view.last}. Choose another period or a longer span.
			</p>
			<SpanSelect view={view} onChange={onSpan} />
		</div>
	);
}
