import type { Thread } from "@/workers/riverModel";
import type { Drawing } from "./geometry";
import { flow, round } from "./paths";

export interface ThreadDrawing {
	readonly path: string;
	readonly width: number;
	/** where it is first and last seen */
	readonly ends: readonly { readonly x: number; readonly y: number }[];
}

/** A deal's way through the bands: as thick as its amount, but never so thin that it is lost. */
export function drawThread(drawing: Drawing, thread: Thread): ThreadDrawing | null {
	const points = thread.map((standing, i) => {
		const node = standing && drawing.nodes[i]?.get(standing.stage);
		return node ? { x: drawing.xs[i] as number, y: node.bottom - (standing.below + standing.amount / 2) * drawing.scale } : null;
	});
	const seen = points.flatMap((at) => at ?? []);
	const [first, last] = [seen[0], seen.at(-1)];
	if (!first || !last) return null;
	let path = "";
	points.forEach((at, i) => {
		const before = points[i - 1];
		if (at) path += before ? flow(before.x, before.y, at.x, at.y) : `M${round(at.x)},${round(at.y)}h0.1`;
	});
	const amounts = thread.flatMap((standing) => standing?.amount ?? []);
	return { path, width: Math.max(2.5, (amounts.at(-1) ?? 0) * drawing.scale), ends: [first, last] };
}
