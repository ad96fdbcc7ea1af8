import { readSheet } from "@/features/sheet/server/readSheet";
import { callerOf, faultResponse } from "@/platform/http/api";

/** The side sheet's content for the list of deals. */
export async function GET(request: Request, route: { params: Promise<{ id: string }> }): Promise<Response> {
	try {
		const context = await callerOf(request);
		const query = new URL(request.url).searchParams;
		return Response.json(await readSheet(context, decodeURIComponent((await route.params).id), query.get("seen") ?? "", query.get("against") ?? ""));
	} catch (error) {
		return faultResponse(error);
	}
}
