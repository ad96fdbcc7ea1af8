"use client";
import { useMemo } from "react";
import { Dropdown } from "react-bootstrap";
import type { DealRow } from "@/usecases/readDeals";

interface Props {
	readonly rows: readonly DealRow[];
	readonly names: readonly { readonly code: string; readonly name: string; readonly about: string }[];
	readonly on: readonly string[];
	readonly set: (on: string[]) => void;
}

const SHOWN = 5;

/** The flags that fire in the list, with how often; any of those switched on filters. The rarer ones wait in a menu. */
export function FlagToggles({ rows, names, on, set }: Props) {
	const counts = useMemo(() => {
		const found = new Map<string, number>();
		for (const row of rows) for (const flag of row.flags) found.set(flag.code, (found.get(flag.code) ?? 0) + 1);
		return found;
	}, [rows]);
	const lit = rows.filter((row) => row.level !== "calm").length;
	const listed = names.filter(({ code }) => counts.get(code) || on.includes(code));
	const first = listed.slice(0, SHOWN);
	const rest = listed.slice(SHOWN);
	const toggle = (code: string) => set(on.includes(code) ? on.filter((other) => other !== code) : [...on, code]);
	const button = (code: string, name: string, count: number, about: string) => (
		<button key={code} type="button" className="flag-toggle" aria-pressed={on.includes(code)} title={about} onClick={() => toggle(code)}>
			<b>{count}</b> {name}
		</button>
	);
	const hidden = rest.filter(({ code }) => on.includes(code)).length;
	return (
		<div className="flag-toggles" role="group" aria-label="Show only deals with these flags">
			{button("lit", "lit", lit, "Attention at watch or act")}
			{first.map(({ code, name, about }) => button(code, name, counts.get(code) ?? 0, about))}
			{rest.length > 0 && (
				<Dropdown autoClose="outside">
					<Dropdown.Toggle as="button" type="button" className="flag-toggle" aria-pressed={hidden > 0}>
						{hidden ? `${hidden} more on` : `${rest.length} more`}
					</Dropdown.Toggle>
					<Dropdown.Menu>
						{rest.map(({ code, name, about }) => (
							<Dropdown.Item as="button" type="button" key={code} active={on.includes(code)} title={about} onClick={() => toggle(code)}>
								<b>{counts.get(code) ?? 0}</b> {name}
							</Dropdown.Item>
						))}
					</Dropdown.Menu>
				</Dropdown>
			)}
			{on.length > 0 && (
				<button type="button" className="plain-button small-text second ms-1" onClick={() => set([])}>
					Show all
				</button>
			)}
		</div>
	);
}
