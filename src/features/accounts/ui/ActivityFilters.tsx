"use client";
import Link from "next/link";
import { parseAsString, useQueryStates } from "nuqs";
import { useTransition } from "react";
import { Form } from "react-bootstrap";
import { useAddress } from "@/ui/frame/address";
import type { ActivitiesView } from "../server/readActivities";

const SPANS = [
	{ key: "four", label: "Last four weeks" },
	{ key: "week", label: "Week" },
	{ key: "month", label: "Month" },
] as const;
export const ACTIVITIES = "/accounts/activities";

/** What of the address stays when something else of it changes. */
export const kept = ({ span, who, kind, account }: ActivitiesView) => ({ span, who, kind, account: account || null });

/** Which days, which kind, and which account. */
export function ActivityFilters({ view }: { view: ActivitiesView }) {
	const address = useAddress();
	const [waiting, start] = useTransition();
	const [state, set] = useQueryStates(
		{ kind: parseAsString, account: parseAsString.withDefault("") },
		{ shallow: false, scroll: false, history: "replace", throttleMs: 300, startTransition: start },
	);
	return (
		<div className="activities-filters no-print" aria-busy={waiting}>
			<div className="flag-toggles" role="group" aria-label="Span">
				{SPANS.map(({ key, label }) => (
					<Link
						key={key}
						className="flag-toggle"
						aria-current={view.span === key ? "true" : undefined}
						href={address(ACTIVITIES, { ...kept(view), span: key })}
					>
						{label}
					</Link>
				))}
			</div>
			<Form.Select size="sm" aria-label="Kind" value={state.kind ?? ""} onChange={({ target }) => void set({ kind: target.value || null })}>
				<option value="">all kinds</option>
				{view.kindNames.map((kind) => (
					<option key={kind}>{kind}</option>
				))}
			</Form.Select>
			<Form.Control
				size="sm"
				type="search"
				aria-label="Account"
				placeholder="Account"
				value={state.account}
				onChange={({ target }) => void set({ account: target.value || null })}
			/>
		</div>
	);
}
