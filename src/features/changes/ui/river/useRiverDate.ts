"use client";
import { parseAsString, useQueryState } from "nuqs";
import { useCallback, useEffect, useRef } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { formatDay } from "@/core/time/day";
import { shortDay } from "@/core/time/words";
import { dayNumber } from "@/ui/format";
import type { RiverView } from "../../server/readRiver";
import type { Drawing } from "./geometry";
import { type Pace, usePlay } from "./usePlay";

/** the flag's width, which stays within the picture */
const FLAG = 49;

/** The date of the river: in the address, on the picture and under the keys; it is dragged, stepped and set running. */
export function useRiverDate(view: RiverView, drawing: Drawing | null, pace: Pace) {
	// Long: one state with all that changes it.
	const [at, setAt] = useQueryState("at", parseAsString.withOptions({ shallow: true, history: "replace" }));
	const [first, last] = [dayNumber(view.first), dayNumber(view.last)];
	const line = useRef<HTMLDivElement>(null);
	const flag = useRef<HTMLDivElement>(null);
	const range = useRef<HTMLInputElement>(null);
	const marked = useRef<number | null>(null);
	const x0 = drawing?.xs[0] ?? 0;
	const x1 = drawing?.xs.at(-1) ?? 0;
	// The state before the first day is at the left edge, a day's end a day's width to the right of it.
	const glide = (day: number) => {
		const x = x0 + ((x1 - x0) * (day - first + 1)) / (last - first + 1);
		if (line.current) line.current.style.transform = `translateX(${x}px)`;
		const whole = Math.round(day);
		if (whole === marked.current) return;
		// What is written is drawn anew with whole days only.
		marked.current = whole;
		if (range.current) range.current.value = String(whole);
		if (!flag.current) return;
		flag.current.textContent = shortDay(whole);
		flag.current.style.transform = `translateX(${Math.min(0, (drawing?.size.width ?? 0) - FLAG - x)}px)`;
	};
	const asked = at ? dayNumber(at) : last;
	const from = asked >= first && asked <= last ? asked : last;
	const { day, go, running, setRunning } = usePlay(first, last, from, pace, glide, (one) => view.weeks.find((week) => one <= week.end)?.end ?? last);
	// biome-ignore lint/correctness/useExhaustiveDependencies: the line is put in its place whenever the drawing is new
	useEffect(() => {
		marked.current = null;
		glide(day);
	}, [drawing]);
	useEffect(() => {
		if (!running) void setAt(day === last ? null : formatDay(day));
	}, [running, day, last, setAt]);

	const jump = useCallback(
		(to: number) => {
			setRunning(0);
			go(to);
		},
		[go, setRunning],
	);
	const weekStep = (way: 1 | -1) => {
		const ends = view.weeks.map((one) => one.end);
		jump(way > 0 ? (ends.find((end) => end > day) ?? last) : (ends.findLast((end) => end < day) ?? first));
	};
	useHotkeys("left", () => weekStep(-1), { preventDefault: true });
	useHotkeys("right", () => weekStep(1), { preventDefault: true });
	useHotkeys("shift+left", () => jump(day - 1));
	useHotkeys("shift+right", () => jump(day + 1));
	useHotkeys("space", () => setRunning(running ? 0 : 1), { preventDefault: true }, [running]);

	return {
		first,
		last,
		day,
		/** index of the week the day lies in */
		week: Math.max(
			0,
			view.weeks.findIndex((one) => day <= one.end),
		),
		go,
		jump,
		weekStep,
		running,
		setRunning,
		/** the day at a place of the picture, in part */
		dayAt: (x: number) => first - 1 + ((x - x0) / Math.max(1, x1 - x0)) * (last - first + 1),
		line,
		flag,
		range,
	};
}
export type RiverDate = ReturnType<typeof useRiverDate>;
