import type { RiverView } from "../../server/readRiver";

/** A river from the text it was packed into. */
export function unpackRiver(text: string): RiverView {
	const view = JSON.parse(text) as RiverView;
	const { offsets, day, stage, amount, close, owner } = view.columns;
	return {
		...view,
		columns: {
			...view.columns,
			offsets: Int32Array.from(offsets),
			day: Int32Array.from(day),
			stage: Int16Array.from(stage),
			amount: Float64Array.from(amount),
			close: Int32Array.from(close),
			owner: Int32Array.from(owner),
		},
	};
}
