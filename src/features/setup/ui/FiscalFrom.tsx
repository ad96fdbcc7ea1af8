"use client";
import { Button, Form } from "react-bootstrap";
import { formatDay, parseDay } from "@/core/time/day";
import { fiscalOf, yearOf } from "@/core/time/fiscal";
import { longDay } from "@/core/time/words";
import { type FiscalDraft, fiscalWords } from "@/ui/parts/FiscalFields";

/** so many years on either side of today’s are offered */
const YEARS = 2;
const same = (a: FiscalDraft, b: FiscalDraft) => JSON.stringify([a.fiscalStartMonth, a.fiscalWeeks]) === JSON.stringify([b.fiscalStartMonth, b.fiscalWeeks]);

/** From which fiscal year on another calendar holds: the years before keep theirs. */
export function FiscalFrom({
	draft,
	before,
	today,
	set,
}: {
	draft: FiscalDraft;
	before: FiscalDraft;
	today: string;
	set: (list: FiscalDraft["fiscalBefore"]) => void;
}) {
	const changed = !same(draft, before);
	if (!changed && !draft.fiscalBefore.length) return null;
	const chosen = draft.fiscalBefore.length > before.fiscalBefore.length ? (draft.fiscalBefore.at(-1)?.until ?? "") : draft.fiscalBefore.length ? "kept" : "";
	const choose = (until: string) =>
		set(
			until === "kept"
				? before.fiscalBefore
				: until === ""
					? []
					: [
							...before.fiscalBefore.filter((one) => one.until < until),
							{ until, fiscalYearStartMonth: before.fiscalStartMonth, fiscalWeeks: before.fiscalWeeks },
						],
		);
	return (
		<div className="company-wide">
			{draft.fiscalBefore.map((one) => (
				<p key={one.until} className="small-text mb-1">
					Until {longDay(parseDay(one.until) ?? 0)}: {fiscalWords(one.fiscalYearStartMonth, one.fiscalWeeks)}.
				</p>
			))}
			{changed ? (
				<Form.Group controlId="fiscal-from">
					<Form.Label>The change holds</Form.Label>
					<Form.Select value={chosen} onChange={({ target }) => choose(target.value)}>
						<option value="">for all years, past ones too</option>
						{before.fiscalBefore.length > 0 && <option value="kept">for the years since the last change</option>}
						{startsOf(draft, parseDay(today) ?? 0).map((start) => (
							<option key={start} value={formatDay(start - 1)}>
								from the year that begins on {longDay(start)}
							</option>
						))}
					</Form.Select>
					<Form.Text>Years before keep their calendar; the one between may be short or long.</Form.Text>
				</Form.Group>
			) : (
				<Button variant="link" size="sm" className="p-0" onClick={() => set([])}>
					Use today’s calendar for all years
				</Button>
			)}
		</div>
	);
}

/** First days of fiscal years by a calendar, around a day. */
function startsOf({ fiscalStartMonth, fiscalWeeks }: FiscalDraft, today: number): number[] {
	const fiscal = fiscalOf({ startMonth: fiscalStartMonth, weeks: fiscalWeeks });
	let { start } = yearOf(today, fiscal);
	for (let back = 1; back < YEARS; back++) ({ start } = yearOf(start - 1, fiscal));
	const starts = [start];
	for (let on = 1; on < 2 * YEARS; on++) starts.push(yearOf(starts.at(-1) as number, fiscal).end + 1);
	return starts;
}
