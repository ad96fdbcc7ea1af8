"use client";
import { useQueryClient } from "@tanstack/react-query";
import { useRouter } from "next/navigation";
import { useCallback } from "react";
import { useNotice } from "./Notices";
import type { Outcome } from "./run";

/** The one way to have figures on screen read anew after a change: the page's own, and what was fetched beside it. */
export function useRefresh(): () => void {
	const router = useRouter();
	const fetched = useQueryClient();
	return useCallback(() => {
		router.refresh();
		void fetched.invalidateQueries();
	}, [router, fetched]);
}

/** An undo that also brings a form back to what it showed before. */
export async function undone<T>(work: Promise<Outcome<T>>, reset: () => void): Promise<Outcome<T>> {
	const back = await work;
	if (back.ok) reset();
	return back;
}

/** Has something done: says what was done, with an undo where there is one, or why it wasn't; and shows the new figures. */
export function useAct() {
	const notice = useNotice();
	const refresh = useRefresh();
	return useCallback(
		async <T>(
			work: Promise<Outcome<T>>,
			words?: string | ((done: T) => string),
			undo?: (done: T) => Promise<Outcome<unknown>>,
		): Promise<(Outcome<T> & { ok: true }) | null> => {
			const done = await work;
			if (!done.ok) {
				notice({ words: done.detail });
				return null;
			}
			refresh();
			if (!words) return done;
			const takeBack = async () => {
				const back = await undo?.(done.result);
				refresh();
				if (back && !back.ok) notice({ words: back.detail });
			};
			notice({ words: typeof words === "string" ? words : words(done.result), ...(undo ? { undo: takeBack } : {}) });
			return done;
		},
		[notice, refresh],
	);
}
