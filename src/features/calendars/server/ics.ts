import ICAL from "ical.js";
import { timesAgain } from "@/formats/calendar/again";
import { openCalendar } from "@/formats/calendar/open";

/** What stands in a calendar: on a day, or from an instant on. */
export interface Entry {
	readonly uid: string;
	readonly title: string;
	/** ISO day of one that takes no time of the day */
	readonly day: string | null;
	readonly at: Date | null;
	readonly words: string;
	readonly url: string;
	/** when it was last known to be so */
	readonly stamp: Date;
}

const LENGTH = "PT30M";
const utc = (at: Date) => ICAL.Time.fromJSDate(at, true);

/** A calendar of RFC 5545, with its name and how often it is worth reading by RFC 7986. */
export function calendarText(name: string, entries: readonly Entry[]): string {
	const calendar = new ICAL.Component("vcalendar");
	calendar.updatePropertyWithValue("version", "2.0");
	calendar.updatePropertyWithValue("prodid", "-//Porch Lamp//Tasks and meetings//EN");
	calendar.updatePropertyWithValue("method", "PUBLISH");
	calendar.updatePropertyWithValue("name", name);
	calendar.updatePropertyWithValue("x-wr-calname", name);
	calendar.updatePropertyWithValue("color", "midnightblue");
	calendar.updatePropertyWithValue("refresh-interval", ICAL.Duration.fromString("PT1H"));
	for (const entry of entries) {
		const event = new ICAL.Component("vevent");
		event.updatePropertyWithValue("uid", entry.uid);
		event.updatePropertyWithValue("dtstamp", utc(entry.stamp));
		event.updatePropertyWithValue("summary", entry.title);
		if (entry.day !== null) {
			event.updatePropertyWithValue("dtstart", ICAL.Time.fromDateString(entry.day));
			// A task takes no time of the day away.
			event.updatePropertyWithValue("transp", "TRANSPARENT");
		} else if (entry.at) {
			event.updatePropertyWithValue("dtstart", utc(entry.at));
			event.updatePropertyWithValue("duration", ICAL.Duration.fromString(LENGTH));
		}
		if (entry.words) event.updatePropertyWithValue("description", entry.words);
		event.updatePropertyWithValue("url", entry.url);
		calendar.addSubcomponent(event);
	}
	return `${calendar.toString()}\r\n`;
}

/** Something of a calendar's file, as it can be taken in. */
export interface Incoming {
	readonly uid: string;
	readonly title: string;
	/** ISO day on which it is due or takes place */
	readonly day: string;
	readonly allDay: boolean;
	/** how it comes again, in words of the file; null: it doesn't */
	readonly repeats: string | null;
	/** what is worth knowing before it is taken in */
	readonly warning: string | null;
}

export interface ReadCalendar {
	readonly items: readonly Incoming[];
	readonly problems: readonly string[];
}

const MOST_ITEMS = 500;
const DAY = 86_400_000;
/** Of what comes again, only the next one is looked for, and no further than this. */
const AHEAD = 366 * DAY;

/**
 * Reads a calendar's file: events and to-dos, each on its day in the given zone; of what comes again the next one from
 * `today` on. Line ends of any kind are taken; a zone that isn't known is taken as ours, and said so.
 *
 * @param dayIn the ISO day of an instant (ms) in the organisation's zone
 */
export function readCalendar(text: string, today: string, dayIn: (ms: number) => string): ReadCalendar {
	const problems: string[] = [];
	let root: ICAL.Component;
	try {
		root = openCalendar(text);
	} catch (error) {
		return { items: [], problems: [`This can’t be read as a calendar (RFC 5545): ${String((error as Error).message).slice(0, 200)}.`] };
	}
	const parts = [...root.getAllSubcomponents("vevent"), ...root.getAllSubcomponents("vtodo")];
	if (parts.length > MOST_ITEMS) problems.push(`There are ${parts.length} entries; the first ${MOST_ITEMS} are shown.`);
	const items = parts.slice(0, MOST_ITEMS).flatMap((part): Incoming[] => {
		const title = String(part.getFirstPropertyValue("summary") ?? "").trim();
		const property = part.getFirstProperty(part.name === "vtodo" && part.getFirstProperty("due") ? "due" : "dtstart");
		const start = property?.getFirstValue();
		if (!title || !(start instanceof ICAL.Time)) {
			problems.push(`${title || "An entry without a title"} has ${title ? "no day" : "no title"}, and is left out.`);
			return [];
		}
		const zoneName = property?.getParameter("tzid");
		const unknown = typeof zoneName === "string" && !ICAL.TimezoneService.has(zoneName);
		const isoOf = (time: ICAL.Time) =>
			time.isDate || unknown || time.zone === ICAL.Timezone.localTimezone ? time.toString().slice(0, 10) : dayIn(time.toJSDate().getTime());
		const rule = part.getFirstPropertyValue("rrule");
		let day = isoOf(start);
		if (rule instanceof ICAL.Recur) {
			const noon = Date.parse(`${today}T12:00Z`);
			const next = timesAgain(rule, start, noon - DAY, noon + AHEAD).find((time) => isoOf(time) >= today);
			if (next) day = isoOf(next);
		}
		const warning = [
			unknown && `the time zone ${zoneName} isn’t known, so the company’s is used`,
			rule instanceof ICAL.Recur && "it repeats; the next one is used",
			day < today && "its day has passed",
		]
			.filter(Boolean)
			.join("; ");
		return [
			{
				uid: String(part.getFirstPropertyValue("uid") ?? `${title} ${day}`).slice(0, 300),
				title: title.slice(0, 300),
				day,
				allDay: start.isDate,
				repeats: rule instanceof ICAL.Recur ? rule.toString() : null,
				warning: warning || null,
			},
		];
	});
	if (!parts.length) problems.push("This file has no events and no to-dos.");
	return { items, problems };
}
