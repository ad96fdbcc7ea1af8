"use client";
import { useCallback, useState } from "react";
import type { DealRow } from "../table/row";

/** Which deals of a list are marked, and which one the keys are at. `open` is the deal whose sheet is open beside it. */
export function useSelection(order: readonly DealRow[], open: string | null, setOpen: (id: string | null) => unknown) {
	const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
	const [current, setCurrent] = useState<string | null>(open);
	const here = current && order.some((row) => row.id === current) ? current : null;
	return {
		selected,
		/** the marked ones that are shown, in the order they stand in */
		chosen: order.filter((row) => selected.has(row.id)),
		here,
		at: setCurrent,
		show: useCallback(
			(id: string) => {
				setCurrent(id);
				void setOpen(id);
			},
			[setOpen],
		),
		mark: useCallback(
			(id: string) =>
				setSelected((now) => {
					const next = new Set(now);
					if (!next.delete(id)) next.add(id);
					return next;
				}),
			[],
		),
		markAll: (ids: readonly string[], on: boolean) => setSelected(on ? new Set(ids) : new Set()),
		clear: () => setSelected(new Set()),
		move: (step: number) => {
			if (!order.length) return;
			const at = order.findIndex((row) => row.id === here);
			const next = order[at < 0 ? 0 : Math.min(order.length - 1, Math.max(0, at + step))];
			if (!next) return;
			setCurrent(next.id);
			if (open) void setOpen(next.id);
		},
	};
}
