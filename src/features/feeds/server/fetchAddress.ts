import { request as plain } from "node:http";
import { request as secure } from "node:https";
import { MOST_PACKED, megabytes } from "@/formats/bundle/limits";
import { insideAllowed, namesInside, outside } from "@/platform/http/outside";

/** ms without a byte after which nothing more is waited for, and altogether */
const PATIENCE = 30_000;
const LONGEST = 10 * 60_000;

/** What an address gave: a file; nothing new; or why neither. */
export type Fetched =
	| { readonly kind: "file"; readonly name: string; readonly bytes: Uint8Array; readonly etag: string | null; readonly lastModified: string | null }
	| { readonly kind: "same" }
	| { readonly kind: "failed"; readonly words: string };

/** What was kept of the answer before. */
export interface Before {
	readonly etag: string | null;
	readonly lastModified: string | null;
}

/** Why an address isn’t fetched at all; null where it may be. */
export function whyNot(url: URL): string | null {
	if (insideAllowed(url)) return null;
	if (url.protocol !== "https:") return "Only addresses that start with https:// are fetched.";
	return namesInside(url) ? `${url.hostname} is inside our own network.` : null;
}

/**
 * Fetches a file, or learns that it is the one from before. A redirect isn’t followed, a file that is too large isn’t read to
 * its end, and a name that leads inside our own network isn’t called.
 */
export function fetchAddress(address: string, header: string | null, before: Before): Promise<Fetched> {
	const url = new URL(address);
	const no = whyNot(url);
	if (no) return Promise.resolve({ kind: "failed", words: no });
	const [, name = "", value = ""] = /^([\w-]+):\s*(.+)$/.exec(header ?? "") ?? [];
	return new Promise((resolve) => {
		const end = (fetched: Fetched) => {
			clearTimeout(timer);
			call.destroy();
			resolve(fetched);
		};
		const failed = (words: string) => end({ kind: "failed", words });
		const call = (url.protocol === "https:" ? secure : plain)(
			url,
			{
				timeout: PATIENCE,
				...(insideAllowed(url) ? {} : { lookup: outside }),
				headers: {
					"user-agent": "Porch-Lamp",
					accept: "text/csv, application/zip, application/vnd.openxmlformats-officedocument.spreadsheetml.sheet, */*;q=0.5",
					...(before.etag ? { "if-none-match": before.etag } : {}),
					...(before.lastModified ? { "if-modified-since": before.lastModified } : {}),
					...(name ? { [name]: value } : {}),
				},
			},
			(response) => {
				const status = response.statusCode ?? 0;
				if (status === 304) return end({ kind: "same" });
				if (status >= 300 && status < 400)
					return failed(`The address answers with a redirect to ${response.headers.location ?? "nowhere"}; enter that address.`);
				if (status !== 200) return failed(`The address answers ${status}${status === 401 || status === 403 ? ": check the header" : ""}.`);
				const parts: Buffer[] = [];
				let size = 0;
				response.on("data", (part: Buffer) => {
					size += part.length;
					if (size > MOST_PACKED) failed(`The file is larger than ${megabytes(MOST_PACKED)}.`);
					else parts.push(part);
				});
				response.on("end", () =>
					end({
						kind: "file",
						name: nameOf(response.headers["content-disposition"], url),
						bytes: new Uint8Array(Buffer.concat(parts)),
						etag: response.headers.etag ?? null,
						lastModified: response.headers["last-modified"] ?? null,
					}),
				);
				response.on("error", (error) => failed(`The answer broke off: ${error.message}.`));
			},
		);
		const timer = setTimeout(() => failed(`The answer took longer than ${LONGEST / 60_000} minutes.`), LONGEST);
		call.on("timeout", () => failed(`No answer within ${PATIENCE / 1000} s.`));
		call.on("error", (error) => failed(`The address can’t be reached: ${error.message}.`));
		call.end();
	});
}

/** What the answer calls its file, else the last part of the address. */
function nameOf(disposition: string | undefined, url: URL): string {
	const [, star] = /filename\*=UTF-8''([^;]+)/i.exec(disposition ?? "") ?? [];
	const [, quoted] = /filename="?([^";]+)"?/i.exec(disposition ?? "") ?? [];
	const named = star ? safely(star) : quoted;
	return (named || safely(url.pathname.split("/").at(-1) ?? "") || "file").replace(/[/\\]/g, "_").slice(0, 200);
}

function safely(text: string): string {
	try {
		return decodeURIComponent(text);
	} catch {
		return text;
	}
}
