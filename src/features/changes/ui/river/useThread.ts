"use client";
import { parseAsString, useQueryState } from "nuqs";
import { useState } from "react";
import type { RiverView } from "../../server/readRiver";
import type { Drawing } from "./geometry";
import { drawThread } from "./threadDrawing";
import { useAnswer, type useRiver } from "./useRiver";

type Model = ReturnType<typeof useRiver>["model"];

/** The deal whose way through the river is drawn: the one that is pointed at, or the one that was kept. `key` names the picture. */
export function useThread(view: RiverView, model: Model, drawing: Drawing | null, key: string) {
	const [pointed, point] = useState<number | null>(null);
	const [kept, keep] = useQueryState("thread", parseAsString.withOptions({ shallow: true, history: "replace" }));
	const pinned = kept === null ? -1 : view.deals.findIndex((deal) => deal.id === kept);
	const drawn = pointed ?? (pinned >= 0 ? pinned : null);
	const way = useAnswer(model, `${key} ${drawn}`, async (m) => (drawn === null ? null : { deal: drawn, points: await m.thread(drawn) }));
	return {
		point,
		/** keeps the deal that is pointed at, or lets go of the one that is kept */
		keep: () => void keep(pointed === null ? null : (view.deals[pointed]?.id ?? null)),
		path: drawing && way && way.deal === drawn ? drawThread(drawing, way.points) : null,
		deal: drawn === null ? null : (view.deals[drawn] ?? null),
		amount: way?.points.findLast((one) => one)?.amount ?? 0,
	};
}
export type Thread = ReturnType<typeof useThread>;
