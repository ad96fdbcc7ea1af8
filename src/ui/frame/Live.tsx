"use client";
import { useEffect, useRef } from "react";
import { useRefresh } from "../useAct";

/** Of many writes in a row the screen is read anew once, and then again after so long, in ms. */
const GATHER = 250;
const APART = 1200;

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
		const look = () => {
			timer = null;
			if (document.hidden || (newest <= shown.current && !told)) return;
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
			source.close();
			if (timer) clearTimeout(timer);
			document.removeEventListener("visibilitychange", soon);
		};
	}, [refresh]);
	return null;
}
