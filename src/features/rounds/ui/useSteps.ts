"use client";
import { useCallback, useEffect, useRef, useState } from "react";
import { useRun } from "@/ui/run";
import { useRefresh } from "@/ui/useAct";

/**
 * Going from deal to deal of a round. The deal that is gone to is shown at once, and the round follows behind: of several
 * steps in a row only the last is sent. `at` is where the screen is, which may be ahead of what was read (`read`).
 */
export function useSteps(round: string, read: string | null, holds: boolean, follow: (dealId: string) => void) {
	const run = useRun();
	const refresh = useRefresh();
	const [ahead, setAhead] = useState<string | null>(null);
	const wanted = useRef<string | null>(null);
	const under = useRef(false);
	const here = useRef(read);
	here.current = ahead ?? read;
	useEffect(() => {
		if (ahead !== null && ahead === read && !under.current) setAhead(null);
	}, [ahead, read]);
	const go = useCallback(
		(dealId: string | undefined) => {
			if (!dealId || dealId === here.current) return;
			here.current = dealId;
			setAhead(dealId);
			if (!holds) return follow(dealId);
			wanted.current = dealId;
			if (under.current) return;
			under.current = true;
			void (async () => {
				let arrived = false;
				while (wanted.current !== null) {
					const next = wanted.current;
					wanted.current = null;
					const done = await run("rounds.goTo", { id: round, dealId: next });
					arrived = done.ok;
					// Refused, the screen is where the round is.
					if (!done.ok && wanted.current === null) setAhead(null);
				}
				under.current = false;
				if (arrived) refresh();
			})();
		},
		[holds, follow, run, round, refresh],
	);
	/** where the screen is at this moment, between two drawings too */
	const now = useCallback(() => here.current, []);
	return { at: ahead ?? read, go, now };
}
