"use client";
import { useCallback, useEffect, useRef, useState } from "react";

export const PACES = [
	{ key: "calm", words: "calm", days: 5 },
	{ key: "brisk", words: "brisk", days: 12 },
	{ key: "fast", words: "fast", days: 30 },
] as const;
export type Pace = (typeof PACES)[number]["key"];

/**
 * A date that can be set, and set running either way: it glides with the screen's frames, or goes week by week
 * where the system asks for less motion. `glide` is told of every frame; `day` changes with whole days only.
 */
export function usePlay(first: number, last: number, initial: number, pace: Pace, glide: (at: number) => void) {
	const [day, setDay] = useState(initial);
	const [running, setRunning] = useState<1 | 0 | -1>(0);
	const at = useRef(initial);
	const told = useRef(glide);
	told.current = glide;

	const go = useCallback(
		(to: number) => {
			at.current = Math.min(last, Math.max(first, to));
			told.current(at.current);
			setDay(Math.round(at.current));
		},
		[first, last],
	);

	useEffect(() => {
		if (!running) return;
		const atEnd = () => (running > 0 ? at.current >= last : at.current <= first);
		// Set running where there is nothing left, it starts from the other end.
		if (atEnd()) go(running > 0 ? first : last);
		if (matchMedia("(prefers-reduced-motion: reduce)").matches) {
			const timer = setInterval(() => {
				go(at.current + 7 * running);
				if (atEnd()) setRunning(0);
			}, 1200);
			return () => clearInterval(timer);
		}
		const days = PACES.find((one) => one.key === pace)?.days ?? 5;
		let before: number | null = null;
		let frame = requestAnimationFrame(function next(now) {
			if (before !== null) go(at.current + (running * days * Math.min(100, now - before)) / 1000);
			before = now;
			if (atEnd()) setRunning(0);
			else frame = requestAnimationFrame(next);
		});
		return () => cancelAnimationFrame(frame);
	}, [running, pace, first, last, go]);

	return { day, go, running, setRunning };
}
