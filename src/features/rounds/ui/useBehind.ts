"use client";
import { useCallback, useRef, useState, useTransition } from "react";
import { useRefresh } from "@/ui/useAct";

export interface Said {
	readonly dealId: string;
	readonly call: string;
}

/**
 * What was said of deals and is being sent, one after the other, while the person who holds a round goes on: the screen shows it as
 * said from the press of the key on. `newest` is the number of the newest word on a deal that was sent from here.
 */
export function useBehind() {
	const refresh = useRefresh();
	const [sending, setSending] = useState<readonly Said[]>([]);
	const [, start] = useTransition();
	const line = useRef<Promise<unknown>>(Promise.resolve());
	const numbers = useRef(new Map<string, number>());
	const newest = useCallback((dealId: string) => numbers.current.get(dealId) ?? null, []);
	const behind = useCallback(
		/** `work` answers the number of what it wrote, `kept` where it is sent later, null where it was refused */
		(dealId: string, call: string, work: () => Promise<number | "kept" | null>): Promise<boolean> => {
			const said = { dealId, call };
			setSending((before) => [...before.filter((one) => one.dealId !== dealId), said]);
			const done = line.current.then(work).then((wrote) => {
				if (typeof wrote === "number") numbers.current.set(dealId, wrote);
				// It is taken off the list with the figures that hold it, so that it doesn't look unsaid in between.
				start(() => {
					// What couldn't be sent has changed nothing, and nothing could be read either.
					if (wrote !== "kept") refresh();
					setSending((before) => before.filter((one) => one !== said));
				});
				return wrote !== null;
			});
			line.current = done.catch(() => undefined);
			return done;
		},
		[refresh],
	);
	return { behind, sending, newest };
}
