import { packedRiver } from "@/features/changes/server/readRiver";
import { packedResponse } from "@/platform/http/packed";

/** The columns of the river, where they are too many to go along with the page. */
export async function GET(request: Request): Promise<Response> {
	return packedResponse(
		request,
		`river ${new URL(request.url).searchParams.get("span")}`,
		(context, sentence, query) => packedRiver(context, sentence, query.get("span") ?? undefined) ?? "null",
	);
}
