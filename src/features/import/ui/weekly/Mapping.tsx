"use client";
import { Form } from "react-bootstrap";
import type { WeeklyPlan } from "@/formats/weekly/read";
import type { WeeklyView } from "../../server/weekly/look";
import type { Chosen } from "./useWeekly";

interface Props {
	readonly view: WeeklyView;
	readonly chosen: Chosen;
	readonly today: string;
	readonly onChoose: (next: Chosen) => void;
}

const ORDERS = { ymd: "year, month, day", dmy: "day, month, year", mdy: "month, day, year" } as const;

/** Which of their columns is which of our fields, how their dates and amounts are written, and which of our stages theirs are. */
export function Mapping({ view, chosen, today, onChoose }: Props) {
	const { plan } = view;
	const set = (change: Partial<WeeklyPlan>) => onChoose({ ...chosen, plan: { ...chosen.plan, ...change } });
	return (
		<>
			<div className="weekly-how">
				<Form.Group controlId="weekly-day">
					<Form.Label className="tiny mb-0">Taken on</Form.Label>
					<Form.Control
						type="date"
						size="sm"
						max={today}
						value={chosen.day ?? view.day ?? ""}
						isInvalid={view.day === null}
						onChange={(event) => onChoose({ ...chosen, day: event.target.value || null })}
					/>
					{view.day === null && <Form.Text className="worse">The name doesn’t say; choose the day.</Form.Text>}
				</Form.Group>
				<Form.Group controlId="weekly-dates">
					<Form.Label className="tiny mb-0">Dates are written</Form.Label>
					<Form.Select size="sm" value={plan.dates} onChange={(event) => set({ dates: event.target.value as WeeklyPlan["dates"] })}>
						{Object.entries(ORDERS).map(([key, words]) => (
							<option key={key} value={key}>
								{words}
							</option>
						))}
					</Form.Select>
					{view.datesUnsure && <Form.Text className="worse">The dates don’t tell which comes first; please check.</Form.Text>}
				</Form.Group>
				<Form.Group controlId="weekly-decimal">
					<Form.Label className="tiny mb-0">Decimals after a</Form.Label>
					<Form.Select size="sm" value={plan.decimal} onChange={(event) => set({ decimal: event.target.value as WeeklyPlan["decimal"] })}>
						<option value=".">point: 1,234.50</option>
						<option value=",">comma: 1.234,50</option>
					</Form.Select>
				</Form.Group>
			</div>
			<ColumnsTable view={view} set={set} />
			<StageNames view={view} chosen={chosen} set={set} />
		</>
	);
}

type SetPlan = (change: Partial<WeeklyPlan>) => void;

function ColumnsTable({ view, set }: { view: WeeklyView; set: SetPlan }) {
	const { plan } = view;
	const samples = (name: string | null) => view.columns.find((column) => column.name === name)?.samples.join(" · ") ?? "";
	const taken = Object.values(plan.columns).filter((name) => name !== null);
	const twice = (name: string | null) => name !== null && taken.filter((one) => one === name).length > 1;
	return (
		<table className="table small-text mt-2 weekly-map">
			<thead>
				<tr>
					<th>Field</th>
					<th>Column of the file</th>
					<th>What stands there</th>
				</tr>
			</thead>
			<tbody>
				{view.fields.map(({ key, words, needed }) => {
					const column = plan.columns[key];
					return (
						<tr key={key}>
							<td>
								<label htmlFor={`weekly-${key}`}>{words}</label>
								{needed && <span className="third"> needed</span>}
							</td>
							<td>
								<Form.Select
									id={`weekly-${key}`}
									size="sm"
									value={column ?? ""}
									isInvalid={twice(column) || (needed && column === null)}
									onChange={(event) => set({ columns: { ...plan.columns, [key]: event.target.value || null } })}
								>
									<option value="">none</option>
									{view.columns.map(({ name }) => (
										<option key={name} value={name}>
											{name}
										</option>
									))}
								</Form.Select>
								{twice(column) && <span className="tiny worse">taken twice</span>}
							</td>
							<td className="second weekly-samples">{column === null && key === "currency" ? `all in ${plan.currency}` : samples(column)}</td>
						</tr>
					);
				})}
			</tbody>
		</table>
	);
}

/** Which of our stages theirs are, where the names don't say. */
function StageNames({ view, chosen, set }: { view: WeeklyView; chosen: Chosen; set: SetPlan }) {
	const theirNames = Object.keys(chosen.plan?.stages ?? {});
	if (!view.stages.length || (!view.unknownStages.length && !theirNames.length)) return null;
	return (
		<fieldset className="mt-2">
			<legend className="fs-6 fw-bold mb-1">Which of your stages are these?</legend>
			{[...new Set([...theirNames, ...view.unknownStages.map((stage) => stage.name)])].map((theirs) => (
				<div key={theirs} className="setting-line me-4 mb-1">
					<label htmlFor={`weekly-stage-${theirs}`}>“{theirs}” is</label>
					<Form.Select
						id={`weekly-stage-${theirs}`}
						size="sm"
						className="w-auto"
						value={chosen.plan?.stages?.[theirs] ?? ""}
						onChange={(event) => set({ stages: { ...chosen.plan?.stages, [theirs]: event.target.value } })}
					>
						<option value="">choose …</option>
						{view.stages.map((stage) => (
							<option key={stage}>{stage}</option>
						))}
					</Form.Select>
				</div>
			))}
		</fieldset>
	);
}
