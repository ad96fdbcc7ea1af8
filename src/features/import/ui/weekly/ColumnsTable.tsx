"use client";
import { Form } from "react-bootstrap";
import { Heads } from "@/ui/parts/Heads";
import type { WeeklyView } from "../../server/weekly/shapes";
import type { SetPlan } from "./setPlan";

/** Which of their columns is which of our fields, each with a few of its values. */
export function ColumnsTable({ view, set }: { view: WeeklyView; set: SetPlan }) {
	const { plan } = view;
	const samples = (name: string | null) => view.columns.find((column) => column.name === name)?.samples.join(" · ") ?? "";
	const taken = Object.values(plan.columns).filter((name) => name !== null);
	const twice = (name: string | null) => name !== null && taken.filter((one) => one === name).length > 1;
	return (
		<table className="table small-text mt-2 weekly-map">
			<Heads of={["Field", "Column in the file", "Values"]} />
			<tbody>
				{view.fields.map(({ key, label: words, needed }) => {
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
								{twice(column) && <span className="tiny worse">used twice</span>}
							</td>
							<td className="second weekly-samples">{column === null && key === "currency" ? `all in ${plan.currency}` : samples(column)}</td>
						</tr>
					);
				})}
			</tbody>
		</table>
	);
}
