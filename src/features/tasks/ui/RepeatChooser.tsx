"use client";
import { Form } from "react-bootstrap";
import { DayField } from "@/ui/parts/DayField";
import { type Repeat, repeatOf, ruleOf, WEEKDAY_WORDS, WEEKDAYS } from "../table/repeat";

const USUAL: Repeat = { every: "week", interval: 1, days: [], until: null };

/** How often a task comes again, chosen. It ends by itself when its deal closes. */
export function RepeatChooser({ rule, onRule }: { rule: string | null; onRule: (rule: string | null) => void }) {
	// Long: one form, its fields in their order.
	const repeat = rule === null ? null : repeatOf(rule);
	const set = (part: Partial<Repeat>) => onRule(ruleOf({ ...(repeat ?? USUAL), ...part }));
	return (
		<fieldset className="give-repeat">
			<legend className="form-label">Repeats</legend>
			<Form.Select
				size="sm"
				aria-label="Repeats"
				value={repeat?.every ?? ""}
				onChange={(event) => (event.target.value ? set({ every: event.target.value as Repeat["every"], days: [] }) : onRule(null))}
			>
				<option value="">never</option>
				<option value="day">daily</option>
				<option value="week">weekly</option>
				<option value="month">monthly</option>
			</Form.Select>
			{repeat && (
				<>
					<span className="small-text">
						every{" "}
						<Form.Control
							type="number"
							aria-label="Every"
							size="sm"
							className="d-inline-block give-interval"
							min={1}
							max={99}
							value={repeat.interval}
							onChange={(event) => set({ interval: Math.min(99, Math.max(1, Number(event.target.value) || 1)) })}
						/>{" "}
						{repeat.every === "day" ? "days" : repeat.every === "week" ? "weeks" : "months"}
					</span>
					{repeat.every === "week" && (
						<span>
							{WEEKDAYS.slice(0, 5).map((day) => (
								<Form.Check
									key={day}
									inline
									id={`repeat-${day}`}
									label={WEEKDAY_WORDS[day].slice(0, 3)}
									checked={repeat.days.includes(day)}
									onChange={(event) => set({ days: event.target.checked ? [...repeat.days, day] : repeat.days.filter((one) => one !== day) })}
								/>
							))}
						</span>
					)}
					<span className="small-text">
						until{" "}
						<DayField
							aria-label="Until"
							size="sm"
							className="d-inline-block give-until"
							value={repeat.until ?? ""}
							onDay={(day) => set({ until: day || null })}
						/>
						{repeat.until === null && " the deal closes"}
					</span>
				</>
			)}
		</fieldset>
	);
}
