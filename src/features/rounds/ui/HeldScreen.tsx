"use client";
import { CALL_KINDS, CALLS } from "@/core/rounds/calls";
import { plural } from "@/core/words/grammar";
import { DataTable } from "@/ui/parts/table/DataTable";
import type { HeldLine, HeldView } from "../server/readHeld";
import "./rounds.css";

/** How calls and reps' commits held against what came, in counts. */
export function HeldScreen({ view }: { view: HeldView }) {
	if (!view.calls)
		return (
			<div className="panel empty">
				<h2>No settled calls yet</h2>
				<p>After a round ends, its calls are compared with what happened to the deals.</p>
			</div>
		);
	const told = view.managers.reduce((sum, { held }) => sum + CALLS.reduce((n, call) => n + held[call].true + held[call].false, 0), 0);
	const right = view.managers.reduce((sum, { held }) => sum + CALLS.reduce((n, call) => n + held[call].true, 0), 0);
	return (
		<>
			<h2>{told ? `${right} of ${plural(told, "call")} came true` : `${plural(view.calls, "call")} made, none settled yet`}</h2>
			<p className="second">
				{CALL_KINDS.map(({ label, comesTrue }, i) => `“${i ? label.toLowerCase() : label}” ${i ? "" : "comes true "}when ${comesTrue}`).join("; ")}. Unsettled
				calls are left out.
			</p>
			<HeldTable of="Whose calls" lines={view.managers} />
			<HeldTable of="Whose deals" lines={view.reps} commits />
		</>
	);
}

function HeldTable({ of, lines, commits = false }: { of: string; lines: readonly HeldLine[]; commits?: boolean }) {
	const cell = ({ called, true: yes, false: no }: { called: number; true: number; false: number }) =>
		called ? yes + no ? `${yes} of ${yes + no}` : <span className="third">{called} open</span> : <span className="third">·</span>;
	const rate = ({ true: yes, false: no }: { true: number; false: number }) => (yes + no ? yes / (yes + no) : null);
	return (
		<DataTable
			of={of}
			className="panel p-0 mb-3"
			rows={lines}
			rowKey={({ id }) => id}
			columns={[
				{ key: "name", label: of, names: true, by: ({ name }) => name, cell: ({ name }) => name },
				...CALL_KINDS.map(({ key, label }) => ({
					key,
					label,
					num: true,
					by: ({ held }: HeldLine) => rate(held[key]),
					cell: ({ held }: HeldLine) => cell(held[key]),
				})),
				commits && { key: "commit", label: "In commit by the rep", num: true, by: ({ commit }) => rate(commit), cell: ({ commit }) => cell(commit) },
			]}
		/>
	);
}
