import { calendarAnswer, feedAnswer } from "@/app/server/calendar";

export async function GET(request: Request, { params }: { params: Promise<{ path: string[] }> }): Promise<Response> {
	const [kind = "", id] = (await params).path;
	const name = (id ?? kind).replace(/\.ics$/, "");
	return id === undefined ? feedAnswer(request, name) : calendarAnswer(request, kind, name);
}
