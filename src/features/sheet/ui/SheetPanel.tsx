"use client";
import { useCallback, useEffect, useState } from "react";
import { Button, CloseButton } from "react-bootstrap";
import type { AssignDeal } from "@/features/tasks/ui/AssignDialog";
import type { SheetView } from "../server/readSheet";
import { SheetBody } from "./SheetBody";
import "./sheet.css";

interface Props {
	readonly id: string;
	readonly seen: string;
	readonly against: string;
	readonly onClose: () => void;
	readonly onAssign: (given: { deal: AssignDeal; title: string; flags: string[] }) => void;
}

/** The sheet beside the list. It is read anew when something was changed, or the sentence moves. */
export function SheetPanel({ id, seen, against, onClose, onAssign }: Props) {
	const [view, setView] = useState<SheetView | null>(null);
	const [error, setError] = useState<string | null>(null);
	const read = useCallback(async () => {
		setError(null);
		try {
			const answer = await fetch(`/sheet/${encodeURIComponent(id)}?seen=${seen}&against=${against}`);
			const body = await answer.json();
			if (answer.ok) setView(body as SheetView);
			else setError(String(body.detail ?? "The sheet can’t be read."));
		} catch {
			setError("The server doesn’t answer. Nothing was lost; try again.");
		}
	}, [id, seen, against]);
	useEffect(() => {
		void read();
		window.addEventListener("porch-lamp:changed", read);
		return () => window.removeEventListener("porch-lamp:changed", read);
	}, [read]);

	return (
		<aside className="sheet-panel panel" aria-label="Sheet of the deal" aria-busy={!view && !error}>
			<CloseButton className="sheet-close no-print" aria-label="Close the sheet" onClick={onClose} />
			{error ? (
				<div className="empty" role="alert">
					<p>{error}</p>
					<Button size="sm" variant="outline-primary" onClick={() => void read()}>
						Try again
					</Button>
				</div>
			) : view ? (
				<SheetBody view={view} onAssign={(title, flags) => onAssign({ deal: view, title, flags })} />
			) : (
				<p className="second" role="status">
					Reading the deal …
				</p>
			)}
		</aside>
	);
}
