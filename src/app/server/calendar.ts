import { activityCalendar, feedOf, taskCalendar } from "@/features/calendars/server/feed";
import { notFound } from "@/platform/fault";
import { callerOf, faultResponse } from "@/platform/http/api";

const calendar = (text: string, name: string) =>
	new Response(text, { headers: { "content-type": "text/calendar; charset=utf-8", "content-disposition": `inline; filename="${name}.ics"` } });

/** Somebody's calendar by its secret address. */
export async function feedAnswer(token: string): Promise<Response> {
	try {
		const text = await feedOf(token);
		if (text === null) throw notFound("calendar", "of this address");
		return calendar(text, "porch-lamp");
	} catch (error) {
		return faultResponse(error);
	}
}

/** A task or an activity as a calendar of its own. */
export async function calendarAnswer(request: Request, kind: string, id: string): Promise<Response> {
	try {
		const context = await callerOf(request);
		const read = kind === "task" ? taskCalendar : activityCalendar;
		return calendar(await read(context, decodeURIComponent(id)), kind);
	} catch (error) {
		return faultResponse(error);
	}
}
