import type { Week } from "@/core/river/river";
import { shortDay } from "@/core/time/words";

const LEAST_APART = 62;

/** Words for the weeks' starts along the axis, as many as have room between the boundaries at `xs`. */
export function axisOf(weeks: readonly Week[], xs: readonly number[]): { x: number; label: string }[] {
	const step = (xs[1] ?? 0) - (xs[0] ?? 0);
	const every = Math.max(1, Math.ceil(LEAST_APART / Math.max(1, step)));
	return weeks.flatMap((week, w) => (w % every === 0 ? [{ x: (xs[w] as number) + step / 2, label: shortDay(week.start) }] : []));
}
