"use client";
import { useRef, useState } from "react";
import { MOST_PACKED, megabytes } from "@/formats/bundle/limits";
import type { WeeklyPlan } from "@/formats/weekly/plan";
import type { WeeklyView } from "../../server/weekly/shapes";
import type { WeeklyTaken } from "../../server/weekly/take";

export interface Chosen {
	readonly day: string | null;
	readonly plan: Partial<WeeklyPlan> | null;
}

const NOTHING: Chosen = { day: null, plan: null };

/** A file that is sent, looked at anew with each choice, and in the end taken in. */
export function useWeekly(onTaken: (taken: WeeklyTaken) => void) {
	// Long: one state with all that changes it.
	const [file, setFile] = useState<File | null>(null);
	const [chosen, setChosen] = useState<Chosen>(NOTHING);
	const [view, setView] = useState<WeeklyView | null>(null);
	const [error, setError] = useState<string | null>(null);
	const [busy, setBusy] = useState<"looking" | "taking" | null>(null);
	const latest = useRef(0);

	const send = async (what: File, choice: Chosen, take: boolean, confirmed: readonly string[]) => {
		const turn = ++latest.current;
		setError(null);
		setBusy(take ? "taking" : "looking");
		const form = formOf(what, choice);
		if (take) form.set("take", "yes");
		for (const key of confirmed) form.append("confirmed", key);
		try {
			const answer = await fetch("/setup/weekly", { method: "POST", body: form });
			const body = await answer.json();
			// An answer to an earlier choice comes too late.
			if (turn !== latest.current) return;
			if (!answer.ok) setError(String(body.detail));
			else if (take) {
				reset();
				onTaken(body as WeeklyTaken);
			} else setView(body as WeeklyView);
		} catch {
			if (turn === latest.current)
				setError("Couldn’t send the file. It may have changed since you chose it, or the server may be busy. Nothing was imported. Choose it again.");
		} finally {
			if (turn === latest.current) setBusy(null);
		}
	};
	const reset = () => {
		setFile(null);
		setView(null);
		setChosen(NOTHING);
	};
	/** Takes up a file, perhaps with what is known of it already. */
	const pick = (next: File | null, known: Chosen = NOTHING) => {
		reset();
		setError(null);
		if (!next) return;
		if (next.size > MOST_PACKED) return setError(tooLarge(next.size));
		setFile(next);
		setChosen(known);
		void send(next, known, false, []);
	};
	const choose = (next: Chosen) => {
		setChosen(next);
		if (file) void send(file, next, false, []);
	};
	/** Looks at the file once more, when something beside it has changed. */
	const again = () => file && void send(file, chosen, false, []);
	/** Saves the rows that can't be read, each with what is wrong, to be mended and imported again. */
	const badRows = async () => {
		if (!file) return;
		if (!(await saveBadRows(formOf(file, chosen)))) setError("Couldn’t export the rows: the connection is down. Nothing was changed. Try again.");
	};
	return {
		badRows,
		file,
		view,
		error,
		busy,
		chosen,
		pick,
		choose,
		again,
		take: (confirmed: readonly string[]) => file && void send(file, chosen, true, confirmed),
	};
}

function formOf(file: File, { day, plan }: Chosen): FormData {
	const form = new FormData();
	form.set("file", file);
	if (day) form.set("day", day);
	if (plan) form.set("plan", JSON.stringify(plan));
	return form;
}

const tooLarge = (size: number) =>
	`This file has ${megabytes(size)}; at most ${megabytes(MOST_PACKED)} are allowed. A weekly file has one row per deal: export only the open deals and the columns you need.`;

/** Saves the rows of a file that can't be read as a file of their own; false where the server isn't reached. */
async function saveBadRows(form: FormData): Promise<boolean> {
	form.set("bad", "yes");
	const answer = await fetch("/setup/weekly", { method: "POST", body: form }).catch(() => null);
	if (!answer?.ok) return false;
	const link = document.createElement("a");
	link.href = URL.createObjectURL(await answer.blob());
	link.download = /filename="([^"]+)"/.exec(answer.headers.get("content-disposition") ?? "")?.[1] ?? "rows to correct.csv";
	link.click();
	URL.revokeObjectURL(link.href);
	return true;
}
