"use client";
import { Form } from "react-bootstrap";
import { type FiscalWeeks, yearEnd } from "@/core/time/fiscal";
import { longDay } from "@/core/time/words";

/** How fiscal years run, as it is filled in; days ISO. */
export interface FiscalDraft {
	/** 1: January */
	readonly fiscalStartMonth: number;
	/** null: by months */
	readonly fiscalWeeks: FiscalWeeks | null;
	/** calendars that held before, the first first */
	readonly fiscalBefore: readonly { readonly until: string; readonly fiscalYearStartMonth: number; readonly fiscalWeeks: FiscalWeeks | null }[];
}

export const MONTHS = Array.from({ length: 12 }, (_, i) => new Date(Date.UTC(2026, i, 1)).toLocaleString("en", { month: "long", timeZone: "UTC" }));
const WEEKDAYS = Array.from({ length: 7 }, (_, day) => new Date(Date.UTC(2026, 10, 1 + day)).toLocaleString("en", { weekday: "long", timeZone: "UTC" }));
const PATTERNS = ["4-4-5", "4-5-4", "5-4-4"] as const;
const USUAL: FiscalWeeks = { pattern: "4-4-5", lastDay: 6, end: "last", month: 12 };

/** A fiscal calendar in words: `years from February`, `years of weeks (4-4-5), ending on the last Saturday of January`. */
export const fiscalWords = (startMonth: number, weeks: FiscalWeeks | null): string =>
	weeks
		? `years of weeks (${weeks.pattern}), ending on the ${weeks.end === "last" ? "last" : "nearest"} ${WEEKDAYS[weeks.lastDay]} ${weeks.end === "last" ? "of" : "to the end of"} ${MONTHS[weeks.month - 1]}`
		: `years from ${MONTHS[startMonth - 1]}`;

/** By months from a first one, or by weeks with a pattern and the day a year ends on. */
export function FiscalFields({ draft, set }: { draft: FiscalDraft; set: (part: Partial<FiscalDraft>) => void }) {
	const { fiscalWeeks: weeks, fiscalStartMonth } = draft;
	return (
		<>
			<Form.Group controlId="company-year">
				<Form.Label>The fiscal year {weeks ? "runs" : "begins in"}</Form.Label>
				<Form.Select
					value={weeks ? "weeks" : fiscalStartMonth}
					onChange={({ target: { value } }) =>
						set(
							value === "weeks"
								? { fiscalWeeks: { ...USUAL, month: fiscalStartMonth === 1 ? 12 : fiscalStartMonth - 1 } }
								: { fiscalWeeks: null, fiscalStartMonth: Number(value) },
						)
					}
				>
					{MONTHS.map((month, i) => (
						<option key={month} value={i + 1}>
							{month}
						</option>
					))}
					<option value="weeks">by weeks: 13 a quarter</option>
				</Form.Select>
			</Form.Group>
			{weeks && <WeeksFields weeks={weeks} set={(part) => set({ fiscalWeeks: { ...weeks, ...part } })} />}
		</>
	);
}

function WeeksFields({ weeks, set }: { weeks: FiscalWeeks; set: (part: Partial<FiscalWeeks>) => void }) {
	const ends = [2026, 2027, 2028].map((year) => longDay(yearEnd(weeks, year)));
	return (
		<fieldset className="company-wide company-weeks">
			<legend className="form-label company-legend">Weeks of a quarter’s months, and the day a year ends on</legend>
			<div className="d-flex gap-2 flex-wrap">
				<Form.Select aria-label="Weeks of the months" value={weeks.pattern} onChange={({ target }) => set({ pattern: target.value as FiscalWeeks["pattern"] })}>
					{PATTERNS.map((pattern) => (
						<option key={pattern}>{pattern}</option>
					))}
				</Form.Select>
				<Form.Select aria-label="Which of these days" value={weeks.end} onChange={({ target }) => set({ end: target.value as FiscalWeeks["end"] })}>
					<option value="last">the last</option>
					<option value="nearest">the nearest</option>
				</Form.Select>
				<Form.Select aria-label="Last day of a year" value={weeks.lastDay} onChange={({ target }) => set({ lastDay: Number(target.value) })}>
					{WEEKDAYS.map((name, day) => (
						<option key={name} value={day}>
							{name}
						</option>
					))}
				</Form.Select>
				<Form.Select aria-label="Month a year ends in" value={weeks.month} onChange={({ target }) => set({ month: Number(target.value) })}>
					{MONTHS.map((month, i) => (
						<option key={month} value={i + 1}>
							{weeks.end === "last" ? "of" : "to the end of"} {month}
						</option>
					))}
				</Form.Select>
			</div>
			<Form.Text>Years end on {ends.join(", ")}. A 53rd week belongs to the last month.</Form.Text>
		</fieldset>
	);
}
