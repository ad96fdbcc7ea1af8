"use client";
import { useMemo } from "react";
import { Dropdown } from "react-bootstrap";
import { LIT } from "../table/fits";
import type { DealRow } from "../table/row";

interface Props {
	readonly rows: readonly DealRow[];
	readonly names: readonly { readonly code: string; readonly name: string; readonly about: string }[];
	readonly on: readonly string[];
	readonly how: "any" | "all";
	readonly since: "lit" | "out" | null;
	/** the earlier moment, as it reads */
	readonly against: string;
	readonly set: (on: string[]) => void;
	readonly setHow: (how: "any" | "all") => void;
	readonly setSince: (since: "lit" | "out" | null) => void;
}

const SHOWN = 5;

/** The flags that fire in the list, with how often; those switched on filter, any of them or all. What lit or went out lately can be had alone. */
export function FlagToggles({ rows, names, on, how, since, against, set, setHow, setSince }: Props) {
	// Long: one row of toggles in their order.
	const counts = useMemo(() => {
		const found = new Map<string, number>();
		const codes = (row: DealRow) => (since === "lit" ? row.newlyLit : since === "out" ? row.wentOut : row.flags.map((flag) => flag.code));
		for (const row of rows) for (const code of codes(row)) found.set(code, (found.get(code) ?? 0) + 1);
		return found;
	}, [rows, since]);
	const lit = rows.filter((row) => row.level !== "calm").length;
	const listed = names.filter(({ code }) => counts.get(code) || on.includes(code));
	const first = listed.slice(0, SHOWN);
	const rest = listed.slice(SHOWN);
	const asked = on.filter((code) => code !== LIT).length;
	const toggle = (code: string) => set(on.includes(code) ? on.filter((other) => other !== code) : [...on, code]);
	const button = (code: string, name: string, count: number, about: string) => (
		<button key={code} type="button" className="flag-toggle" aria-pressed={on.includes(code)} title={about} onClick={() => toggle(code)}>
			<b>{count}</b> {name}
		</button>
	);
	const hidden = rest.filter(({ code }) => on.includes(code)).length;
	return (
		<div className="flag-toggles no-print" role="group" aria-label="Show only deals with these flags">
			{button(LIT, "lit", lit, "Attention at watch or act")}
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
			<Since rows={rows} since={since} against={against} setSince={setSince} />
			{asked > 1 && (
				<button
					type="button"
					className="plain-button small-text second ms-1"
					title="Whether a deal must carry any of these flags, or all"
					onClick={() => setHow(how === "any" ? "all" : "any")}
				>
					{how === "any" ? "any of these; switch to all" : "all of these; switch to any"}
				</button>
			)}
			{(on.length > 0 || since) && (
				<button
					type="button"
					className="plain-button small-text second ms-1"
					onClick={() => {
						set([]);
						setSince(null);
					}}
				>
					Show all
				</button>
			)}
		</div>
	);
}

/** What lit and what went out since the earlier moment. */
function Since({ rows, since, against, setSince }: Pick<Props, "rows" | "since" | "against" | "setSince">) {
	const newly = rows.filter((row) => row.newlyLit.length).length;
	const gone = rows.filter((row) => row.wentOut.length).length;
	const toggle = (which: "lit" | "out") => setSince(since === which ? null : which);
	return (
		<>
			<button
				type="button"
				className="flag-toggle toggle-since"
				aria-pressed={since === "lit"}
				title={`Flags that lit since ${against}`}
				onClick={() => toggle("lit")}
			>
				<b>{newly}</b> newly lit
			</button>
			<button type="button" className="flag-toggle" aria-pressed={since === "out"} title={`Flags cleared since ${against}`} onClick={() => toggle("out")}>
				<b>{gone}</b> cleared
			</button>
		</>
	);
}
