"use client";
import { useEffect, useRef } from "react";
import { useRefresh } from "../useAct";

/** Of many writes in a row the screen is read anew once, and then again after so long, in ms. */
const GATHER = 250;
const APART = 1200;
/** How long to wait, in ms, when the server can't be reached just now. */
const AGAIN = 3000;

/** Whether the server answers: a page that is read anew while it doesn't would be lost with what is written on it. */
const answers = () =>
	fetch("/healthz", { method: "HEAD", cache: "no-store" }).then(
		(answer) => answer.ok,
		() => false,
	);

/**
 * Reads the screen anew when somebody else has changed something: nothing that is being written or where one has scrolled
 * is lost, since only what came from the server is replaced. `revision` is what the screen shows.
 */
export function Live({ revision }: { revision: number }) {
	const refresh = useRefresh();
	const shown = useRef(revision);
	shown.current = Math.max(shown.current, revision);
	useEffect(() => {
		let newest = 0;
		let told = false;
		let last = 0;
		let timer: ReturnType<typeof setTimeout> | null = null;
		let over = false;
		const look = async () => {
			if (document.hidden || (newest <= shown.current && !told)) {
				timer = null;
				return;
			}
			const reached = await answers();
			if (over) return;
			timer = reached ? null : setTimeout(look, AGAIN);
			if (!reached) return;
			shown.current = Math.max(shown.current, newest);
			told = false;
			last = Date.now();
			refresh();
		};
		const soon = () => {
			timer ??= setTimeout(look, Math.max(GATHER, last + APART - Date.now()));
		};
		const source = new EventSource("/live");
		source.onmessage = ({ data }) => {
			newest = Math.max(newest, Number(data));
			if (newest > shown.current) soon();
		};
		source.addEventListener("news", () => {
			told = true;
			soon();
		});
		document.addEventListener("visibilitychange", soon);
		return () => {
			over = true;
			source.close();
			if (timer) clearTimeout(timer);
			document.removeEventListener("visibilitychange", soon);
		};
	}, [refresh]);
	return null;
}
