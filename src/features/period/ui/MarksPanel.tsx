"use client";
import { useEffect, useMemo, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { exponentOf } from "@/core/money/currency";
import { DataTable } from "@/ui/parts/table/DataTable";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { ThresholdsView } from "../server/thresholds";

type Mark = { readonly side: "most" | "least"; readonly text: string };

const UNITS = { amount: "", count: "", times: "times", share: "%", days: "working days", perDay: "a day" } as const;

/** How much of a figure's own unit one of what is typed is. */
const scaleOf = (unit: keyof typeof UNITS, currency: string) => (unit === "amount" ? 10 ** (exponentOf(currency) ?? 2) : unit === "share" ? 0.01 : 1);

/** For any figure of the period: what is still all right. Past it the page says so. */
export function MarksPanel({ views, currency }: { views: readonly ThresholdsView[]; currency: string }) {
	// Long: one page, its parts in their order.
	const [team, setTeam] = useState(views[0]?.team ?? "");
	const view = views.find((one) => one.team === team) ?? views[0];
	const saved = useMemo(
		() =>
			new Map(
				(view?.figures ?? []).map((one): [string, Mark] => [
					one.figure,
					{ side: one.side, text: one.value === null || one.ofAll ? "" : String(Math.round((one.value / scaleOf(one.unit, currency)) * 100) / 100) },
				]),
			),
		[view, currency],
	);
	const [marks, setMarks] = useState(saved);
	const [error, setError] = useState<string | null>(null);
	useEffect(() => setMarks(saved), [saved]);
	const run = useRun();
	const act = useAct();
	if (!view) return <p className="second">You have no team whose marks you can set.</p>;
	const changed = [...marks].some(([key, mark]) => mark.text !== saved.get(key)?.text || (mark.text && mark.side !== saved.get(key)?.side));
	const set = (key: string, next: Partial<Mark>) => setMarks((now) => new Map(now).set(key, { side: "most", text: "", ...now.get(key), ...next }));
	const save = () => {
		const wanted = view.figures.flatMap(({ figure, unit, label }) => {
			const { text, side } = marks.get(figure) ?? { text: "", side: "most" as const };
			return text.trim() ? [{ figure, side, label, value: Number(text.trim().replace(/\s/g, "")) * scaleOf(unit, currency) }] : [];
		});
		const bad = wanted.find(({ value }) => !Number.isFinite(value) || value < 0);
		if (bad) return setError(`${bad.label}: a mark must be a number of 0 or more.`);
		setError(null);
		return act(run("period.saveThresholds", { team: view.team, marks: wanted.map(({ label: _, ...mark }) => mark) }), "Marks saved.", (done) =>
			run("period.undoThresholds", { change: done.change }),
		);
	};
	return (
		<div>
			<p className="second">
				Set a limit for any figure of Period. When a figure passes its mark, the page says so and lists it first. Fields a team leaves blank use everyone’s
				marks.
			</p>
			{views.length > 1 && (
				<Form.Select size="sm" className="w-auto mb-2" aria-label="Whose marks" value={team} onChange={(event) => setTeam(event.target.value)}>
					{views.map((one) => (
						<option key={one.team} value={one.team}>
							{one.team || "Everyone"}
						</option>
					))}
				</Form.Select>
			)}
			<Marks figures={view.figures} marks={marks} currency={currency} set={set} />
			{error && (
				<p role="alert" className="text-danger small-text mt-2">
					{error}
				</p>
			)}
			{changed && (
				<div className="setup-bar" role="status">
					<span className="second">Not saved yet.</span>
					<div className="d-flex gap-2">
						<Button variant="link" onClick={() => setMarks(saved)}>
							Discard
						</Button>
						<Button onClick={() => void save()}>Save marks</Button>
					</div>
				</div>
			)}
		</div>
	);
}

interface MarksProps {
	readonly figures: ThresholdsView["figures"];
	readonly marks: ReadonlyMap<string, Mark>;
	readonly currency: string;
	readonly set: (figure: string, next: Partial<Mark>) => void;
}

function Marks({ figures, marks, currency, set }: MarksProps) {
	return (
		<DataTable
			of="Marks"
			tableClass="mb-0 marks-table"
			rows={figures}
			rowKey={({ figure }) => figure}
			columns={[
				{ key: "figure", label: "Figure", names: true, cell: ({ label }) => label },
				{
					key: "side",
					label: "Acceptable",
					cell: ({ figure, label, side }) => (
						<Form.Select
							size="sm"
							className="w-auto"
							aria-label={`${label}: at most or at least`}
							value={marks.get(figure)?.side ?? side}
							onChange={(event) => set(figure, { side: event.target.value as Mark["side"] })}
						>
							<option value="most">at most</option>
							<option value="least">at least</option>
						</Form.Select>
					),
				},
				{
					key: "mark",
					label: "Mark",
					cell: ({ figure, label, unit, value, ofAll }) => (
						<span className="d-flex gap-2 align-items-center">
							<Form.Control
								size="sm"
								inputMode="decimal"
								className="setting"
								aria-label={`${label}, ${unit === "amount" ? currency : UNITS[unit] || "number"}`}
								placeholder={ofAll && value !== null ? `${Math.round((value / scaleOf(unit, currency)) * 100) / 100} as for everyone` : "none"}
								value={marks.get(figure)?.text ?? ""}
								onChange={(event) => set(figure, { text: event.target.value })}
							/>
							<span className="second small-text">{unit === "amount" ? currency : UNITS[unit]}</span>
						</span>
					),
				},
			]}
		/>
	);
}
