"use client";
import { useCallback, useEffect, useRef, useState } from "react";

export const PACES = [
	{ key: "calm", label: "calm", days: 5 },
	{ key: "brisk", label: "brisk", days: 12 },
	{ key: "fast", label: "fast", days: 30 },
] as const;
export type Pace = (typeof PACES)[number]["key"];

/**
 * A date that can be set, and set running either way: it glides with the screen's frames, or goes week by week
 * where the system asks for less motion. `glide` is told of every frame; `day` is the whole day, and while it runs the
 * one that `step` gives for it, so that not every day on the way is drawn anew.
 */
export function usePlay(first: number, last: number, initial: number, pace: Pace, glide: (at: number) => void, step: (day: number) => number) {
	const [day, setDay] = useState(initial);
	const [running, setRunning] = useState<1 | 0 | -1>(0);
	const at = useRef(initial);
	const told = useRef({ glide, step });
	told.current = { glide, step };

	const go = useCallback(
		(to: number, onTheWay = false) => {
			at.current = Math.min(last, Math.max(first, to));
			told.current.glide(at.current);
			const whole = Math.round(at.current);
			setDay(onTheWay ? told.current.step(whole) : whole);
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
			if (before !== null) go(at.current + (running * days * Math.min(100, now - before)) / 1000, true);
			before = now;
			if (atEnd()) setRunning(0);
			else frame = requestAnimationFrame(next);
		});
		return () => {
			cancelAnimationFrame(frame);
			go(at.current);
		};
	}, [running, pace, first, last, go]);

	return { day, go, running, setRunning };
}
