import { packedDeals } from "@/features/deals/server/packedDeals";
import { packedResponse } from "@/platform/http/packed";

/** The rows of the table of deals, where they are too many to go along with the page. */
export async function GET(request: Request): Promise<Response> {
	return packedResponse(request, "deals", packedDeals);
}
