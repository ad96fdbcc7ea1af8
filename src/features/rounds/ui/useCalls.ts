"use client";
import { useCallback, useEffect, useRef, useState } from "react";
import { useNotice } from "@/ui/Notices";
import { type Input, useRun } from "@/ui/run";
import { useRefresh } from "@/ui/useAct";

type NewCall = Input<"rounds.call">;
const AGAIN = 3000;
/** the status of what never reached the server */
const keyOf = (round: string) => `porch-lamp-calls ${round}`;

/** Calls that couldn't be sent, as the browser keeps them while it is closed. */
function keptOf(round: string): NewCall[] {
	try {
		return JSON.parse(localStorage.getItem(keyOf(round)) ?? "[]") as NewCall[];
	} catch {
		return [];
	}
}

/**
 * Makes the calls of a round. One that can't be sent, since the connection or the server is down, waits and is sent by
 * itself; the page says how many wait. What the server refuses is said, and isn't sent again.
 */
export function useCalls(round: string) {
	const run = useRun();
	const notice = useNotice();
	const refresh = useRefresh();
	const [waiting, setWaiting] = useState<readonly NewCall[]>([]);
	const busy = useRef(false);
	const keep = useCallback(
		(calls: readonly NewCall[]) => {
			setWaiting(calls);
			if (calls.length) localStorage.setItem(keyOf(round), JSON.stringify(calls));
			else localStorage.removeItem(keyOf(round));
		},
		[round],
	);
	useEffect(() => setWaiting(keptOf(round)), [round]);
	const send = useCallback(
		async (call: NewCall): Promise<boolean> => {
			const outcome = await run("rounds.call", call);
			if (outcome.ok) {
				refresh();
				return true;
			}
			if (outcome.title === "Not sent") {
				// The last word on a deal is the one that counts.
				keep([...keptOf(round).filter(({ dealId }) => dealId !== call.dealId), call]);
				return true;
			}
			notice({ words: outcome.detail });
			refresh();
			return false;
		},
		[run, refresh, notice, keep, round],
	);
	useEffect(() => {
		if (!waiting.length) return;
		const timer = setInterval(async () => {
			if (busy.current) return;
			busy.current = true;
			const [first, ...rest] = keptOf(round);
			if (first) {
				const outcome = await run("rounds.call", first);
				if (outcome.ok || outcome.title !== "Not sent") {
					keep(rest);
					if (!outcome.ok) notice({ words: outcome.detail });
					refresh();
				}
			}
			busy.current = false;
		}, AGAIN);
		return () => clearInterval(timer);
	}, [waiting, run, keep, notice, refresh, round]);
	return { send, waiting };
}
