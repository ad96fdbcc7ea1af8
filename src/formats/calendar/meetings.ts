import ICAL from "ical.js";
import { type Named, storable } from "../mail/readMail";
import { timesAgain } from "./again";
import { openCalendar } from "./open";

/** A meeting of a calendar’s file, or one time of a meeting that comes again. */
export interface Meeting {
	/** its UID, with the day of a time that comes again */
	readonly key: string;
	/** ms since the epoch */
	readonly at: number;
	readonly title: string;
	readonly words: string;
	readonly organizer: Named | null;
	readonly people: readonly Named[];
	readonly cancelled: boolean;
}

const MOST_TIMES = 60;
const DAY = 86_400_000;
/** of what comes again, times so long ago are still told */
const BACK = 366 * DAY;

/**
 * Reads the meetings of a calendar’s file (RFC 5545): of one that comes again each time of the last year, and the next. What has no
 * day or no title is left out and told.
 *
 * @param now ms since the epoch
 * @param noon the instant of a day’s middle in the organisation’s zone, for what takes no time of the day
 */
export function readMeetings(
	text: string,
	now: number,
	noon: (iso: string) => number,
): { readonly meetings: readonly Meeting[]; readonly problems: readonly string[] } {
	const problems: string[] = [];
	let root: ICAL.Component;
	try {
		root = openCalendar(text);
	} catch (error) {
		return { meetings: [], problems: [`This can’t be read as a calendar (RFC 5545): ${String((error as Error).message).slice(0, 200)}.`] };
	}
	const withdrawn = String(root.getFirstPropertyValue("method") ?? "").toUpperCase() === "CANCEL";
	const events = root.getAllSubcomponents("vevent");
	// One time of what comes again that was moved stands by itself, beside the rule it is taken out of.
	const moved = new Set(
		events.flatMap((part) => (part.getFirstProperty("recurrence-id") ? [`${uidOf(part)} ${part.getFirstPropertyValue("recurrence-id")}`] : [])),
	);
	const meetings = events.flatMap((part): Meeting[] => {
		const title = plain(part.getFirstPropertyValue("summary")).slice(0, 500);
		const start = part.getFirstProperty("dtstart")?.getFirstValue();
		if (!title || !(start instanceof ICAL.Time)) {
			problems.push(`${title || "A meeting without a title"} has ${title ? "no day" : "no title"}, and is left out.`);
			return [];
		}
		const organizer = part.getFirstProperty("organizer");
		const about = {
			title,
			words: plain(part.getFirstPropertyValue("description")).slice(0, 10_000),
			organizer: organizer ? personOf(organizer) : null,
			people: part.getAllProperties("attendee").flatMap((one) => personOf(one) ?? []),
			cancelled: withdrawn || String(part.getFirstPropertyValue("status") ?? "").toUpperCase() === "CANCELLED",
		};
		const instant = (time: ICAL.Time) => (time.isDate ? noon(time.toString().slice(0, 10)) : time.toJSDate().getTime());
		const rule = part.getFirstPropertyValue("rrule");
		const again = part.getFirstPropertyValue("recurrence-id");
		if (!(rule instanceof ICAL.Recur)) return [{ ...about, key: again ? `${uidOf(part)} ${again}` : uidOf(part), at: instant(start) }];
		return timesOf(part, rule, start, now, instant)
			.map((time) => ({ ...about, key: `${uidOf(part)} ${time}`, at: instant(time) }))
			.filter(({ key }) => !moved.has(key));
	});
	if (!events.length) problems.push("This file has no meetings.");
	return { meetings, problems };
}

const plain = (value: unknown) => storable(String(value ?? "")).trim();
const uidOf = (part: ICAL.Component) => plain(part.getFirstPropertyValue("uid") ?? part.getFirstPropertyValue("summary")).slice(0, 250);

/** Somebody a meeting names by their address. */
function personOf(property: ICAL.Property): Named | null {
	const address = /^mailto:(.+)$/i.exec(String(property.getFirstValue() ?? ""))?.[1];
	const name = property.getParameter("cn");
	return address ? { address: storable(address).trim().toLowerCase().slice(0, 300), name: plain(Array.isArray(name) ? name[0] : name).slice(0, 200) } : null;
}

/** The times of what comes again: the last ones of a year, and the first that is to come; those its file takes out aren’t among them. */
function timesOf(part: ICAL.Component, rule: ICAL.Recur, start: ICAL.Time, now: number, instant: (time: ICAL.Time) => number): ICAL.Time[] {
	const out = new Set(part.getAllProperties("exdate").flatMap((one) => one.getValues().map((value) => String(value))));
	const kept = (times: readonly ICAL.Time[]) => times.filter((time) => !out.has(time.toString()));
	const times = timesAgain(rule, start, now - BACK, now + BACK);
	const past = times.filter((time) => instant(time) <= now);
	return [...kept(past).slice(1 - MOST_TIMES), ...kept(times.slice(past.length)).slice(0, 1)];
}
