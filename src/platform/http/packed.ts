import { KNOWN_PARTS } from "@/formats/knownParts";
import type { Context } from "../context";
import { resolveViewpoint, type Viewpoint } from "../viewpoint";
import { callerOf, faultResponse } from "./api";
import { type Chunk, deflatedStream, missingParts } from "./chunks";

/** The viewpoint that the words of an address mean. */
export function viewpointOf(context: Context, query: URLSearchParams): Viewpoint {
	const part = (name: string) => query.get(name) ?? undefined;
	return resolveViewpoint(context, { whose: part("whose"), due: part("due"), seen: part("seen"), against: part("against") });
}

/** Answers a long text of a viewpoint, compressed, to a browser that names the parts it has only the others; the page unpacks it itself. `make` checks the rights. */
export async function packedResponse(
	request: Request,
	make: (context: Context, viewpoint: Viewpoint, query: URLSearchParams) => readonly Chunk[],
): Promise<Response> {
	try {
		const context = await callerOf(request);
		const query = new URL(request.url).searchParams;
		const chunks = make(context, viewpointOf(context, query), query);
		const known = request.headers.get(KNOWN_PARTS);
		const bytes = deflatedStream(known === null ? chunks : missingParts(chunks, new Set(known.split(" "))));
		return new Response(bytes as BodyInit, { headers: { "content-type": "application/octet-stream", "cache-control": "private, no-store" } });
	} catch (error) {
		return faultResponse(error);
	}
}
