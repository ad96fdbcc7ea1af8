"use client";
import type { ReactNode } from "react";
import { Form } from "react-bootstrap";
import { type FiscalDraft, FiscalFields } from "./FiscalFields";

/** What a company's days, years and amounts are reckoned by, as it is filled in. */
export interface CompanyDraft extends FiscalDraft {
	readonly name: string;
	readonly baseCurrency: string;
	readonly timeZone: string;
	/** 0: Sunday */
	readonly weekend: readonly number[];
	/** one a line: the day and, after it, its name */
	readonly holidays: string;
}

export const holidayLines = (holidays: readonly { readonly date: string; readonly name: string }[]): string =>
	holidays.map(({ date, name }) => `${date} ${name}`.trim()).join("\n");

/** Lines of days as they are sent: `2026-12-25 Christmas Day`. */
export const holidaysOf = (lines: string): { date: string; name: string }[] =>
	lines
		.split("\n")
		.map((line) => line.trim())
		.filter(Boolean)
		.map((line) => {
			const [date = "", ...name] = line.split(/[\s,;]+/);
			return { date, name: name.join(" ") };
		});

/** From Monday on; the number is the weekday's. */
const WEEKDAYS = [1, 2, 3, 4, 5, 6, 0].map((day) => ({
	day,
	words: new Date(Date.UTC(2026, 10, 1 + day)).toLocaleString("en", { weekday: "short", timeZone: "UTC" }),
}));

interface Props {
	readonly draft: CompanyDraft;
	readonly setDraft: (next: CompanyDraft) => void;
	readonly zones: readonly string[];
	readonly currencies: readonly string[];
	/** why the currency can't be chosen any more */
	readonly currencyFixed?: boolean;
	/** what stands below the fiscal year */
	readonly calendar?: ReactNode;
}

/** Name, currency, time zone, fiscal year, weekend and holidays. */
export function CompanyFields({ draft, setDraft, zones, currencies, currencyFixed = false, calendar }: Props) {
	const set = (part: Partial<CompanyDraft>) => setDraft({ ...draft, ...part });
	return (
		<div className="company-fields">
			<Form.Group controlId="company-name" className="company-wide">
				<Form.Label>Company name</Form.Label>
				<Form.Control value={draft.name} maxLength={200} onChange={(event) => set({ name: event.target.value })} />
			</Form.Group>
			<Form.Group controlId="company-currency">
				<Form.Label>Base currency</Form.Label>
				<Form.Select value={draft.baseCurrency} disabled={currencyFixed} onChange={(event) => set({ baseCurrency: event.target.value })}>
					{currencies.map((code) => (
						<option key={code}>{code}</option>
					))}
				</Form.Select>
				<Form.Text>
					{currencyFixed ? "Fixed: amounts or rates already use it." : "All totals are shown in it. It can be changed until the first deals are imported."}
				</Form.Text>
			</Form.Group>
			<Form.Group controlId="company-zone">
				<Form.Label>Time zone</Form.Label>
				<Form.Select value={draft.timeZone} onChange={(event) => set({ timeZone: event.target.value })}>
					{zones.map((zone) => (
						<option key={zone}>{zone}</option>
					))}
				</Form.Select>
				<Form.Text>Days start at midnight in this zone.</Form.Text>
			</Form.Group>
			<FiscalFields draft={draft} set={set} />
			{calendar}
			<fieldset>
				<legend className="form-label company-legend">Days nobody works</legend>
				<div className="company-days">
					{WEEKDAYS.map(({ day, words }) => (
						<Form.Check
							key={day}
							type="checkbox"
							id={`weekend-${day}`}
							label={words}
							checked={draft.weekend.includes(day)}
							onChange={(event) => set({ weekend: event.target.checked ? [...draft.weekend, day] : draft.weekend.filter((other) => other !== day) })}
						/>
					))}
				</div>
			</fieldset>
			<Form.Group controlId="company-holidays" className="company-wide">
				<Form.Label>Holidays</Form.Label>
				<Form.Control
					as="textarea"
					rows={Math.max(3, Math.min(10, draft.holidays.split("\n").length))}
					value={draft.holidays}
					placeholder={"2026-12-25 Christmas Day\n2027-01-01 New Year"}
					onChange={(event) => set({ holidays: event.target.value })}
				/>
				<Form.Text>One a line: the day, and its name if you like. Working days are counted without them.</Form.Text>
			</Form.Group>
		</div>
	);
}
