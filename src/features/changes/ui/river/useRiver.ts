"use client";
import { type Remote, wrap } from "comlink";
import { useEffect, useRef, useState } from "react";
import type { Cut, Picture, RiverModel } from "@/workers/riverModel";
import type { RiverView } from "../../server/readRiver";

export type Model = Remote<RiverModel>;

/** The river's thread of its own, and the picture it computes for a cut of the view. */
export function useRiver(view: RiverView, cut: Cut | null): { model: Model | null; picture: Picture | null; failed: boolean } {
	const [model, setModel] = useState<Model | null>(null);
	const [picture, setPicture] = useState<Picture | null>(null);
	const [failed, setFailed] = useState(false);
	const opened = useRef<RiverView | null>(null);

	useEffect(() => {
		const worker = new Worker(new URL("../../../../workers/river.ts", import.meta.url), { type: "module" });
		worker.addEventListener("error", () => setFailed(true));
		opened.current = null;
		setModel(() => wrap<RiverModel>(worker));
		return () => worker.terminate();
	}, []);

	const { field, part } = cut ?? {};
	useEffect(() => {
		if (!model) return;
		let current = true;
		const wanted = field !== undefined && part !== undefined ? { field, part } : null;
		const made = opened.current === view ? model.cut(wanted) : model.open(view, wanted);
		opened.current = view;
		made.then(
			(next) => current && setPicture(next),
			() => current && setFailed(true),
		);
		return () => {
			current = false;
		};
	}, [model, view, field, part]);
	return { model, picture, failed };
}

/** What the model answers to a question, renewed when the question changes; the last answer stays until the next one is there. */
export function useAnswer<T>(model: Model | null, key: string, ask: (model: Model) => Promise<T>): T | null {
	const [answer, setAnswer] = useState<T | null>(null);
	const question = useRef(ask);
	question.current = ask;
	// biome-ignore lint/correctness/useExhaustiveDependencies: the key names the question
	useEffect(() => {
		let current = true;
		// Where the model itself has failed the picture says so; what was answered before stays.
		if (model) {
			question.current(model).then(
				(found) => current && setAnswer(() => found),
				() => undefined,
			);
		}
		return () => {
			current = false;
		};
	}, [model, key]);
	return answer;
}
