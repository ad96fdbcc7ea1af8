import { activityCalendar, feedOf, taskCalendar } from "@/features/calendars/server/feed";
import { notFound } from "@/platform/fault";
import { callerOf, faultResponse } from "@/platform/http/api";
import { SOURCE_HEADER } from "@/platform/http/source";
import { demandLimit } from "@/platform/limit";
import { tokenHash } from "@/platform/sessions";

const calendar = (text: string, name: string) =>
	new Response(text, { headers: { "content-type": "text/calendar; charset=utf-8", "content-disposition": `inline; filename="${name}.ics"` } });

/** Somebody's calendar by its secret address. */
export async function feedAnswer(request: Request, token: string): Promise<Response> {
	try {
		await demandLimit("calendar addresses", request.headers.get(SOURCE_HEADER) ?? "direct");
		await demandLimit("calendar", tokenHash(token));
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
