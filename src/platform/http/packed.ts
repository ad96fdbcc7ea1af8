import { gzipSync } from "node:zlib";
import type { Context } from "../context";
import { derivedFor } from "../derivedFor";
import { resolveViewpoint, type Viewpoint } from "../viewpoint";
import { callerOf, faultResponse } from "./api";

/** Fast rather than small: what is sent is kept, and most of it is read on the same network. */
const LEVEL = 3;

/** The viewpoint that the words of an address mean. */
export function viewpointOf(context: Context, query: URLSearchParams): Viewpoint {
	const part = (name: string) => query.get(name) ?? undefined;
	return resolveViewpoint(context, { whose: part("whose"), due: part("due"), seen: part("seen"), against: part("against") });
}

/** Answers a long text of a viewpoint as gzip, packed once until something changes; the page unpacks it itself. `make` checks the rights. */
export async function packedResponse(
	request: Request,
	what: string,
	make: (context: Context, viewpoint: Viewpoint, query: URLSearchParams) => string,
): Promise<Response> {
	try {
		const context = await callerOf(request);
		const query = new URL(request.url).searchParams;
		const viewpoint = viewpointOf(context, query);
		const text = make(context, viewpoint, query);
		const bytes = derivedFor(context, viewpoint, `gzip ${what}`, () => gzipSync(text, { level: LEVEL }));
		return new Response(bytes as BodyInit, { headers: { "content-type": "application/gzip", "cache-control": "private, no-store" } });
	} catch (error) {
		return faultResponse(error);
	}
}
