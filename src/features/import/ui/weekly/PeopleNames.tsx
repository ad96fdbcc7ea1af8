"use client";
import { Form } from "react-bootstrap";
import { byCount } from "@/core/words/grammar";
import type { WeeklyView } from "../../server/weekly/shapes";
import type { SetPlan } from "./setPlan";

const SHOWN = 40;
/** stands for somebody who isn't known yet */
const NEW = "+";

/** Who is meant by the names of a file: asked where several are called so, and open to choice where nobody is. */
export function PeopleNames({ view, set }: { view: WeeklyView; set: SetPlan }) {
	const said = view.plan.people;
	const asked = view.people.filter(({ who }) => who.length !== 1);
	if (!asked.length) return null;
	const choose = (name: string, id: string) => set({ people: { ...said, [name]: id } });
	return (
		<fieldset className="mt-2">
			<legend className="fs-6 fw-bold mb-1">Match people</legend>
			{asked.slice(0, SHOWN).map(({ name, count, who }) => {
				const value = Object.hasOwn(said, name) ? said[name] : who.length ? "" : NEW;
				const others = view.everyone.filter((person) => !who.some((one) => one.id === person.id));
				return (
					<div key={name} className="setting-line me-4 mb-1">
						<label htmlFor={`weekly-person-${name}`}>
							“{name}” <span className="second">in {byCount(count, "one row", `${count} rows`)}</span>
						</label>
						<Form.Select
							id={`weekly-person-${name}`}
							size="sm"
							className="w-auto"
							value={value}
							isInvalid={value === ""}
							onChange={(event) => choose(name, event.target.value)}
						>
							{who.length > 1 && <option value="">{who.length} have this name: choose …</option>}
							{who.map((person) => (
								<option key={person.id} value={person.id}>
									{person.label}
								</option>
							))}
							<option value={NEW}>a new person</option>
							<optgroup label="Someone else">
								{others.map((person) => (
									<option key={person.id} value={person.id}>
										{person.label}
									</option>
								))}
							</optgroup>
						</Form.Select>
					</div>
				);
			})}
			{asked.length > SHOWN && <p className="tiny second mb-0">and {asked.length - SHOWN} more unknown people</p>}
		</fieldset>
	);
}
