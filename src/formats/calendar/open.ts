import ICAL from "ical.js";

/** A calendar’s file as its parts, with its own time zones known. Line ends of any kind are taken. @throws what the parser says of a file that isn’t one */
export function openCalendar(text: string): ICAL.Component {
	const root = new ICAL.Component(ICAL.parse(text.replace(/\r\n|\r|\n/g, "\r\n")) as never);
	for (const zone of root.getAllSubcomponents("vtimezone")) ICAL.TimezoneService.register(zone);
	return root;
}
