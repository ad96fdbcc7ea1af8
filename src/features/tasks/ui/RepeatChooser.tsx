"use client";
import { Form } from "react-bootstrap";
import { type Repeat, repeatOf, ruleOf, WEEKDAY_WORDS, WEEKDAYS } from "../table/repeat";

const USUAL: Repeat = { every: "week", interval: 1, days: [], until: null };

/** How often a task comes again, chosen. It ends by itself when its deal closes. */
export function RepeatChooser({ rule, onRule }: { rule: string | null; onRule: (rule: string | null) => void }) {
	const repeat = rule === null ? null : repeatOf(rule);
	const set = (part: Partial<Repeat>) => onRule(ruleOf({ ...(repeat ?? USUAL), ...part }));
	return (
		<fieldset className="give-repeat">
			<legend className="form-label">Comes again</legend>
			<Form.Select
				size="sm"
				aria-label="Comes again"
				value={repeat?.every ?? ""}
				onChange={(event) => (event.target.value ? set({ every: event.target.value as Repeat["every"], days: [] }) : onRule(null))}
			>
				<option value="">never</option>
				<option value="day">by the day</option>
				<option value="week">by the week</option>
				<option value="month">by the month</option>
			</Form.Select>
			{repeat && (
				<>
					<span className="small-text">
						every{" "}
						<Form.Control
							type="number"
							aria-label="Every so many"
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
						<Form.Control
							type="date"
							aria-label="Until"
							size="sm"
							className="d-inline-block give-until"
							value={repeat.until ?? ""}
							onChange={(event) => set({ until: event.target.value || null })}
						/>
						{repeat.until === null && " the deal closes"}
					</span>
				</>
			)}
		</fieldset>
	);
}
