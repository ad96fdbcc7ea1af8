import { packedResponse } from "@/app/server/packed";
import { packedDeals } from "@/usecases/table/packedDeals";

/** The rows of the table of deals, where they are too many to go along with the page. */
export async function GET(request: Request): Promise<Response> {
	return packedResponse(request, "deals", packedDeals);
}
