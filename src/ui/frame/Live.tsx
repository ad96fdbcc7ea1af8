"use client";
import { useEffect, useRef } from "react";
import { useRefresh } from "../useAct";
import { untilReached } from "./reach/reach";

/** Of many writes in a row the screen is read anew once, and then again after so long, in ms. */
const GATHER = 250;
const APART = 1200;
/** So often it is looked whether the database is back, in ms. */
const BACK = 2000;
/** Whether a write matters to a screen. A deal that lies open beside its list may be anybody's. */
function concerns(shown: readonly string[] | null, touched: readonly string[] | null): boolean {
	if (shown === null || touched === null || new URLSearchParams(location.search).has("deal")) return true;
	return touched.some((id) => shown.includes(id));
}

/**
 * Reads the screen anew when somebody else has changed something: nothing that is being written or where one has scrolled
 * is lost, since only what came from the server is replaced. `revision` is what the screen shows, `people` whose deals and
 * tasks alone it shows (null: anybody's): what touches none of those is no news for it. A screen that was made while the
 * database was `away` is read anew once it is back.
 */
export function Live({ revision, people, away }: { revision: number; people: readonly string[] | null; away: boolean }) {
	const refresh = useRefresh();
	const shown = useRef(revision);
	shown.current = Math.max(shown.current, revision);
	const ours = useRef(people);
	ours.current = people;
	useEffect(() => {
		if (!away) return;
		const timer = setInterval(async () => {
			const ready = await fetch("/readyz", { method: "HEAD", cache: "no-store" }).catch(() => null);
			if (ready?.ok) refresh();
		}, BACK);
		return () => clearInterval(timer);
	}, [away, refresh]);
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
			await untilReached();
			timer = null;
			if (over) return;
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
			const said = JSON.parse(data) as { revision: number; people: readonly string[] | null };
			if (!concerns(ours.current, said.people)) return;
			newest = Math.max(newest, said.revision);
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
