"use client";
import { useCallback, useEffect, useRef, useState } from "react";
import { useNotice } from "@/ui/Notices";
import { type Input, useRun } from "@/ui/run";
import { useRefresh } from "@/ui/useAct";
import { useBehind } from "./useBehind";

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
	const { behind, sending, newest } = useBehind();
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
		(call: NewCall): Promise<boolean> =>
			behind(call.dealId, call.call, async () => {
				const outcome = await run("rounds.call", { ...call, seen: newest(call.dealId) ?? call.seen ?? null });
				if (outcome.ok) return outcome.result.id;
				if (outcome.title === "Not sent") {
					// The last word on a deal is the one that counts.
					keep([...keptOf(round).filter(({ dealId }) => dealId !== call.dealId), call]);
					return "kept";
				}
				notice({ words: outcome.detail });
				return null;
			}),
		[behind, newest, run, notice, keep, round],
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
	return { send, waiting, sending, behind, newest };
}
