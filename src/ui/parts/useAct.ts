"use client";
import { useRouter } from "next/navigation";
import { useCallback } from "react";
import type { Outcome } from "../actions";
import { useNotice } from "./Notices";

/** Figures on screen are read anew after a change. */
export function useAgain(): () => void {
	const router = useRouter();
	return useCallback(() => {
		router.refresh();
		window.dispatchEvent(new Event("porch-lamp:changed"));
	}, [router]);
}

/** An undo that also brings a form back to what it showed before. */
export async function undone<T extends object>(work: Promise<Outcome<T>>, reset: () => void): Promise<Outcome<T>> {
	const back = await work;
	if (back.ok) reset();
	return back;
}

/** Has something done: says what was done, with an undo where there is one, or why it wasn't; and shows the new figures. */
export function useAct() {
	const notice = useNotice();
	const again = useAgain();
	return useCallback(
		async <T extends object>(
			work: Promise<Outcome<T>>,
			words?: string | ((done: T) => string),
			undo?: (done: T) => Promise<Outcome<object>>,
		): Promise<(Outcome<T> & { ok: true }) | null> => {
			const done = await work;
			if (!done.ok) {
				notice({ words: done.detail });
				return null;
			}
			again();
			if (words) {
				notice({
					words: typeof words === "string" ? words : words(done),
					...(undo
						? {
								undo: async () => {
									const back = await undo(done);
									again();
									if (!back.ok) notice({ words: back.detail });
								},
							}
						: {}),
				});
			}
			return done;
		},
		[notice, again],
	);
}
