import { CALLS } from "@/features/registry";
import { handlerOf } from "@/platform/http/serve";

interface Route {
	readonly params: Promise<{ path: string[] }>;
}

const handler = handlerOf(CALLS);
const answer = async (request: Request, { params }: Route) => handler(request, (await params).path.map(decoded));

/** A part of an address, or itself where it isn't one that can be decoded. */
function decoded(part: string): string {
	try {
		return decodeURIComponent(part);
	} catch {
		return part;
	}
}

export { answer as DELETE, answer as GET, answer as PATCH, answer as POST };
