"use client";
import { useEffect, useRef, useState } from "react";
import { Alert, Modal, Spinner } from "react-bootstrap";
import { useWeekly } from "@/features/import/ui/weekly/useWeekly";
import { Looked } from "@/features/import/ui/weekly/WeeklyPanel";
import { longDate } from "@/ui/format";
import { useNotice } from "@/ui/Notices";
import { useRefresh } from "@/ui/useAct";
import type { RunView } from "../server/readFeeds";

interface Props {
	readonly run: RunView;
	readonly covers: string;
	readonly today: string;
	readonly close: () => void;
}

/** A file that waits, looked at as one that somebody chose: what it asks is answered, and it is imported. */
export function ReviewFile({ run, covers, today, close }: Props) {
	const notice = useNotice();
	const refresh = useRefresh();
	const [confirmed, setConfirmed] = useState<readonly string[]>([]);
	const [fault, setFault] = useState<string | null>(null);
	const weekly = useWeekly((taken) => {
		notice({ words: `Imported for ${longDate(taken.day)}: ${taken.fresh} new, ${taken.changed} changed, ${taken.missing} missing.` });
		refresh();
		close();
	});
	const begun = useRef(false);
	useEffect(() => {
		if (begun.current) return;
		begun.current = true;
		fetch(`/setup/feeds/files/${encodeURIComponent(run.id)}`)
			.then(async (answer) => {
				if (!answer.ok) return setFault(String((await answer.json()).detail));
				weekly.pick(new File([await answer.blob()], run.name), { day: run.day, plan: covers ? { covers } : null });
			})
			.catch(() => setFault("Couldn’t load the file: the connection is down. It’s still here; try again."));
	}, [run, covers, weekly]);
	const { view, error, busy } = weekly;
	return (
		<Modal show onHide={close} size="xl" scrollable aria-labelledby="review-title">
			<Modal.Header closeButton>
				<Modal.Title id="review-title">Review {run.name}</Modal.Title>
			</Modal.Header>
			<Modal.Body>
				{!view && !error && !fault && (
					<p role="status" className="second">
						<Spinner as="span" size="sm" /> Reading the file …
					</p>
				)}
				{busy === "taking" && <p role="status">Importing the file …</p>}
				{(error ?? fault) && (
					<Alert variant="danger" role="alert">
						{error ?? fault}
					</Alert>
				)}
				{view && <Looked view={view} weekly={weekly} today={today} confirmed={confirmed} setConfirmed={setConfirmed} onCancel={close} />}
			</Modal.Body>
		</Modal>
	);
}
