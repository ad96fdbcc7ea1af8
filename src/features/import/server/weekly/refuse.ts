import { exactAmount } from "@/core/money/words";
import { Fault } from "@/platform/fault";
import type { WeeklyView } from "./shapes";

/** Something has to be chosen first: the file may be right, only nobody has said how it is meant. */
const question = (title: string, detail: string, more: Readonly<Record<string, unknown>> = {}) => new Fault(422, title, detail, { ...more, question: true });

/** Whether a fault asks for something to be chosen or confirmed, so that the file can be imported afterwards. */
export const isQuestion = ({ status, more }: Fault): boolean => status === 409 || more.question === true;

/**
 * Refuses a file that can't be imported as it is: what is wrong with it, what has to be chosen first, what has to be confirmed.
 *
 * @throws Fault 422 says what is wrong or open, 409 what has to be confirmed
 */
export function refuse(view: WeeklyView, confirmed: ReadonlySet<string>): void {
	refuseFaults(view);
	refuseUnsure(view);
	refuseUnmatched(view);
	const asks = view.asks.filter((ask) => !confirmed.has(ask.key));
	if (asks.length) throw new Fault(409, "Please confirm", asks.map((ask) => ask.words).join(" "), { asks });
}

function refuseFaults(view: WeeklyView): void {
	const [cause] = view.causes;
	if (cause && !(view.plan.goodOnly && view.goodRows)) {
		const place = [cause.lines.length ? `line ${cause.lines[0]}` : null, cause.column].filter(Boolean).join(", ");
		const others = cause.count > 1 ? ` (in ${cause.count} rows)` : "";
		const more = view.causes.length > 1 ? `; and ${view.causes.length - 1} more` : "";
		throw new Fault(422, "Nothing was imported", `${view.name}${place ? `, ${place}` : ""}: ${cause.reason}${others}${more}.`, { causes: view.causes });
	}
	if (view.day === null) throw question("Choose the file’s date", `The name ${view.name} doesn’t contain the file’s date. Choose the day it was exported.`);
	if (!view.stages.length) throw question("No stages yet", "There are no stages yet. Create them from those in the file, or in Setup, Stages and habits.");
}

/** What can be read in several ways is chosen first. */
function refuseUnsure(view: WeeklyView): void {
	if (view.unsure.encoding)
		throw question(
			"Choose the text encoding",
			`It may be in ${view.encodings.map(({ encoding, sample }) => `${encoding} (“${sample}”)`).join(", or ")}. Choose the encoding.`,
			{
				encodings: view.encodings,
			},
		);
	if (view.unsure.dates) {
		const readings = view.dates.map(({ order, samples }) => `${order} (${samples.map(({ text, day }) => `${text} is ${day ?? "no day"}`).join(", ")})`);
		throw question("Choose the date order", `Dates can be read in several ways: ${readings.join(", or ")}. Choose the order.`, { dates: view.dates });
	}
	if (view.unsure.scale)
		throw question(
			"Choose the unit of amounts",
			"A line above the table mentions thousands or millions, but the column’s name doesn’t. Choose the unit of the amounts.",
		);
	if (view.differing.length) {
		const [one] = view.differing;
		throw question(
			"Choose the line that counts",
			`${one?.id} is on lines ${one?.lines.join(", ")}, which differ in ${one?.words.join(", ")}${view.differing.length > 1 ? `; so do ${view.differing.length - 1} more` : ""}. Amounts are added up; choose the line that supplies the other fields.`,
			{ differing: view.differing },
		);
	}
	if (view.unsure.amounts) {
		const totals = view.amounts.map(
			({ mark, total }) => `${exactAmount(total, view.plan.currency)} with a ${mark === "." ? "point" : "comma"} before the decimals`,
		);
		throw question(
			"Choose the decimal mark",
			`Amounts can be read in two ways: ${view.plan.currency} ${totals.join(", or ")} altogether. Choose the decimal mark.`,
			{ amounts: view.amounts },
		);
	}
}

/** Stages and people that nobody here is called. */
function refuseUnmatched(view: WeeklyView): void {
	const [stage] = view.unknownStages;
	if (stage) throw question("Match stages", `${stage.count} rows have the stage “${stage.name}”. Choose the matching stage.`);
	const several = view.people.find(({ name, who }) => who.length > 1 && !view.plan.people[name]);
	if (several)
		throw question(
			"Match people",
			`${several.who.length} people are named ${several.name}: ${several.who.map((one) => one.label).join("; ")}. Choose the right one.`,
			{ people: view.people },
		);
}
