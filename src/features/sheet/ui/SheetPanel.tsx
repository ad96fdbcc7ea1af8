"use client";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { Button, CloseButton } from "react-bootstrap";
import type { DealPanel } from "@/features/deals/ui/slots";
import type { SheetView } from "../server/sheetView";
import { SheetBody } from "./SheetBody";
import "./sheet.css";

/** The sheet beside the list. It is read anew when something was changed, or the sentence moves. */
export function SheetPanel({ id, seen, against, onClose, onNext, onAssign }: DealPanel) {
	const { data, error, refetch } = useQuery({
		queryKey: ["sheet", id, seen, against],
		queryFn: async ({ signal }) => {
			const answer = await fetch(`/sheet/${encodeURIComponent(id)}?seen=${seen}&against=${against}`, { signal }).catch((reason) => {
				throw signal.aborted ? reason : new Error("The server doesn’t respond. Nothing was lost. Try again.");
			});
			const body = await answer.json();
			if (!answer.ok) throw new Error(String(body.detail ?? "Couldn’t load the sheet."));
			return body as SheetView;
		},
	});
	// What is shown stays while it is read again, and when that fails.
	const view = data ?? null;
	const panel = useFocusOf(id);

	return (
		<aside ref={panel} tabIndex={-1} className="sheet-panel panel" aria-label="Sheet of the deal" aria-busy={!view && !error}>
			{onNext && (
				<Button size="sm" variant="link" className="sheet-next no-print" title="N" onClick={onNext}>
					Next lit deal
				</Button>
			)}
			<CloseButton className="sheet-close no-print" aria-label="Close the sheet" onClick={onClose} />
			{error && !view ? (
				<div className="empty" role="alert">
					<p>{error.message}</p>
					<Button size="sm" variant="outline-primary" onClick={() => void refetch()}>
						Try again
					</Button>
				</div>
			) : view ? (
				<SheetBody view={view} onAssign={(title, flags) => onAssign({ dealIds: [view.id], title, flags })} />
			) : (
				<p className="second" role="status">
					Loading the deal …
				</p>
			)}
		</aside>
	);
}

/** A sheet that is opened by a key takes the focus, and gives it back to where it was. One that is clicked open leaves it there. */
function useFocusOf(id: string) {
	const panel = useRef<HTMLElement>(null);
	// biome-ignore lint/correctness/useExhaustiveDependencies: each deal is a sheet of its own
	useEffect(() => {
		const before = document.activeElement as HTMLElement | null;
		if (!lastByKey) return;
		panel.current?.focus({ preventScroll: true });
		return () => {
			const inside = panel.current?.contains(document.activeElement) || document.activeElement === document.body;
			if (inside && before?.isConnected) before.focus({ preventScroll: true });
		};
	}, [id]);
	return panel;
}

/** Whether the last thing done was a key, not a click. */
let lastByKey = false;
if (typeof window !== "undefined") {
	window.addEventListener("keydown", () => (lastByKey = true), true);
	window.addEventListener("pointerdown", () => (lastByKey = false), true);
}
