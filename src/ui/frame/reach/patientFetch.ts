import { BUILD_HEADER } from "../build";
import { tooOld, untilReached } from "./reach";

type Fetch = typeof fetch;

/** what a server says that can’t answer just now: by itself, by a proxy in front of it, or since too much is asked */
const NOT_NOW = new Set([429, 500, 502, 503, 504]);
/** so often a page that fails though the server answers is asked for again */
const TRIES = 3;
/** longer by so much before each try, in ms */
const PAUSE = 300;

/** The address of a part of a page that the framework’s router reads, unless it only reads ahead; null of any other request. */
function pageRead(input: RequestInfo | URL, init?: RequestInit): URL | null {
	if (input instanceof Request || (init?.method ?? "GET") !== "GET") return null;
	const headers = new Headers(init?.headers);
	if (!headers.has("rsc") || headers.has("next-router-prefetch") || headers.has("next-router-segment-prefetch")) return null;
	const address = new URL(input, location.href);
	address.searchParams.delete("_rsc");
	return address;
}

const isHere = ({ pathname, search }: URL) =>
	pathname === location.pathname && [...new URLSearchParams(search)].join() === [...new URLSearchParams(location.search)].join();

/** The whole of an answer, so that one that breaks off is known before anything is made of it. */
async function whole(answer: Response): Promise<Response> {
	const { status, statusText, headers, url, redirected } = answer;
	const made = new Response(await answer.arrayBuffer(), { status, statusText, headers });
	Object.defineProperty(made, "url", { value: url });
	Object.defineProperty(made, "redirected", { value: redirected });
	return made;
}

/**
 * A fetch under which no page is lost. The framework’s router loads the whole page again where a part of it can’t be read, and
 * with it goes what is open and what was typed; a server that was gone for a moment, or a proxy that says so, is waited for
 * instead, which the page says. A page that is read anew by a server of another build would go the same way: it stays
 * as it is, and is said to be old.
 */
export function patientFetch(plain: Fetch, ownBuild: string | null): Fetch {
	return async (input, init) => {
		const read = pageRead(input, init);
		if (!read) return plain(input, init);
		for (let tries = 1; ; tries++) {
			const answer = await plain(input, init)
				.then((one) => (isHere(read) && one.ok ? whole(one) : one))
				.catch((error: unknown) => {
					// What fails again and again though the server answers isn’t the server’s being away.
					if (init?.signal?.aborted || tries > TRIES) throw error;
					return null;
				});
			const build = answer?.headers.get(BUILD_HEADER);
			if (ownBuild && build && build !== ownBuild && isHere(read)) {
				tooOld();
				return new Promise(() => undefined);
			}
			if (answer && (!NOT_NOW.has(answer.status) || tries > TRIES)) return answer;
			await untilReached();
			await new Promise((resolve) => setTimeout(resolve, tries * PAUSE));
		}
	};
}
