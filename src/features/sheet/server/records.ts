import type { DealSeen } from "@/core/dealSeen";
import { stageTimes } from "@/core/flags/agingStage";
import type { Norms } from "@/core/flags/rule";
import { type Day, formatDay } from "@/core/time/day";
import type { OrganisationState } from "@/data/organisation/state";
import type { DealRecords } from "@/data/queries/dealRecords";
import { settingWords } from "./parts";
import type { SheetView } from "./sheetView";

/** The flags of a deal with the day each lit, and how many working days ago that was. */
export function flagsOf({ company }: OrganisationState, seen: DealSeen, since: ReadonlyMap<string, Day>, day: Day): SheetView["flags"] {
	const { calendar, stages, flags } = company.rules;
	return seen.flags.map((flag) => {
		const lit = since.get(flag.code) ?? day;
		return {
			code: flag.code,
			severity: flag.severity,
			...flag.words,
			since: formatDay(lit),
			days: calendar.between(lit, day),
			settings: settingWords(flag.code, flags, stages[seen.stageIndex]?.name ?? null),
		};
	});
}

/** The stages a deal has been in, each with how long that usually takes. */
export function visitsOf({ company }: OrganisationState, seen: DealSeen, norms: Norms): SheetView["visits"] {
	const { stages } = company.rules;
	return seen.path.visits.map((visit) => {
		return {
			stage: stages[visit.stage]?.name ?? "",
			from: formatDay(visit.from),
			to: formatDay(visit.to),
			finished: visit.finished,
			length: visit.length,
			...stageTimes(company, norms, visit.stage),
		};
	});
}

/** Quotes that had been sent by a day, and what was answered by then. */
export function quotesOf(records: DealRecords, day: Day): SheetView["quotes"] {
	return records.quotes
		.filter((quote) => !quote.sentOn || quote.sentOn <= formatDay(day))
		.map((quote) => ({
			id: quote.id,
			number: quote.number,
			sent: quote.sentOn,
			valid: quote.validUntil,
			answer: quote.answeredOn && quote.answeredOn <= formatDay(day) ? quote.answer || "answered" : null,
			amount: quote.amount,
			currency: quote.currency,
		}));
}

/** The steps of the close plan as they stood on a day. */
export function planOf(records: DealRecords, day: Day): SheetView["plan"] {
	return records.steps.map((step) => ({
		id: step.id,
		title: step.title,
		due: step.dueOn,
		side: step.side,
		done: step.doneOn && step.doneOn <= formatDay(day) ? step.doneOn : null,
		late: step.dueOn !== null && step.dueOn < formatDay(day) && !(step.doneOn && step.doneOn <= formatDay(day)),
	}));
}

/** What is on offer, line by line. */
export function linesOf(records: DealRecords): SheetView["lines"] {
	return records.lines.map((line) => ({
		product: line.product,
		quantity: line.quantity,
		list: line.listPrice,
		sold: line.unitPrice,
		currency: line.currency,
	}));
}
