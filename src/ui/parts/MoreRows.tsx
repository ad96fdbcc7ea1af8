"use client";
import { parseAsInteger, useQueryState } from "nuqs";
import { useTransition } from "react";
import { Button, Spinner } from "react-bootstrap";
import { grouped } from "../format";
import { ROWS_AT_ONCE } from "./rows";

/** Says that a long list shows its first rows, which ones they are, and fetches more of them. Nothing where all are shown. */
export function MoreRows({ shown, count, order }: { shown: number; count: number; order: string }) {
	const [waiting, start] = useTransition();
	const [, setLimit] = useQueryState("limit", parseAsInteger.withOptions({ shallow: false, scroll: false, history: "replace", startTransition: start }));
	if (shown >= count) return null;
	return (
		<p className="small-text second mt-2 mb-0" aria-live="polite">
			{order}: the first {grouped(shown)} of {grouped(count)}.{" "}
			<Button size="sm" variant="link" className="p-0 align-baseline no-print" disabled={waiting} onClick={() => void setLimit(shown + ROWS_AT_ONCE)}>
				{waiting && <Spinner as="span" size="sm" />} Show {grouped(Math.min(ROWS_AT_ONCE, count - shown))} more
			</Button>
		</p>
	);
}
