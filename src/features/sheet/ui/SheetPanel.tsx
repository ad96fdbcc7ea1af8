"use client";
import { useQuery } from "@tanstack/react-query";
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
	const { data, error, refetch } = useQuery({
		queryKey: ["sheet", id, seen, against],
		queryFn: async ({ signal }) => {
			const answer = await fetch(`/sheet/${encodeURIComponent(id)}?seen=${seen}&against=${against}`, { signal }).catch((reason) => {
				throw signal.aborted ? reason : new Error("The server doesn’t answer. Nothing was lost; try again.");
			});
			const body = await answer.json();
			if (!answer.ok) throw new Error(String(body.detail ?? "The sheet can’t be read."));
			return body as SheetView;
		},
	});
	// What is shown stays while it is read again, and when that fails.
	const view = data ?? null;

	return (
		<aside className="sheet-panel panel" aria-label="Sheet of the deal" aria-busy={!view && !error}>
			<CloseButton className="sheet-close no-print" aria-label="Close the sheet" onClick={onClose} />
			{error && !view ? (
				<div className="empty" role="alert">
					<p>{error.message}</p>
					<Button size="sm" variant="outline-primary" onClick={() => void refetch()}>
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
