"use client";
import { useEffect, useRef, useState } from "react";
import { plural } from "@/core/words/grammar";
import type { Outcome, Result } from "@/ui/run";
import { useRun } from "@/ui/run";
import { sendFile } from "@/ui/sendFile";
import { useAct } from "@/ui/useAct";

export type Preview = Result<"intake.preview">;
export type IntakePlace = { readonly dealId: string } | { readonly accountId: string };

const ASK = 700;

/** Sends a file and asks the server how far it has read it, until it has. */
function useReading(place: IntakePlace, file: File) {
	const [sent, setSent] = useState(0);
	const [fault, setFault] = useState<string | null>(null);
	const [view, setView] = useState<Preview | null>(null);
	const id = useRef<string | null>(null);
	const run = useRun();
	useEffect(() => {
		let here = true;
		let abort = () => {};
		const look = async () => {
			if (!here || !id.current) return;
			const found: Outcome<Preview> = await run("intake.preview", { id: id.current });
			if (!here) return;
			if (!found.ok) return setFault(found.detail);
			setView(found.result);
			if (found.result.state === "reading") setTimeout(() => void look(), ASK);
		};
		const at = "dealId" in place ? (["deal", place.dealId] as const) : (["account", place.accountId] as const);
		const following = {
			told: setSent,
			started: (cancel: () => void) => {
				abort = cancel;
			},
		};
		void sendFile("intakes", [at, ["name", file.name.slice(0, 300)]], file, following).then((answer) => {
			if (!here || !answer) return;
			if ("fault" in answer) return setFault(answer.fault);
			id.current = answer.id;
			void look();
		});
		return () => {
			here = false;
			abort();
		};
		// One dialog is about one file at one place.
	}, [place, file, run]);
	return { sent, fault, view, setView, id };
}

const saidOf = ({ logged, contacts }: Result<"intake.take">) =>
	`${[logged ? `${logged} logged` : "", contacts ? `${plural(contacts, "contact")} made` : ""].filter(Boolean).join(", ") || "Nothing was new"}.`;

/** A file on its way: sent, read by the server, shown, and logged once somebody says so. */
export function useIntake(place: IntakePlace, file: File, close: () => void) {
	const { sent, fault, view, setView, id } = useReading(place, file);
	const [adding, setAdding] = useState<readonly string[]>([]);
	const [without, setWithout] = useState<ReadonlySet<number>>(new Set());
	const [busy, setBusy] = useState(false);
	const run = useRun();
	const act = useAct();
	/** Looks again as though these people were known. */
	const add = async (next: readonly string[]) => {
		if (!id.current) return;
		setAdding(next);
		const found = await run("intake.preview", { id: id.current, adding: [...next] });
		if (found.ok) setView(found.result);
	};
	const leave = () => {
		if (id.current) void run("intake.cancel", { id: id.current });
		close();
	};
	const take = async () => {
		const own = id.current;
		if (!own) return;
		setBusy(true);
		const done = await act(run("intake.take", { id: own, adding: [...adding], without: [...without] }), saidOf, () => run("intake.undo", { id: own }));
		setBusy(false);
		if (done) close();
	};
	const toggle = (ordinal: number) => setWithout((set) => new Set(set.has(ordinal) ? [...set].filter((one) => one !== ordinal) : [...set, ordinal]));
	return { sent, fault, view, adding, add, without, toggle, busy, leave, take };
}
