import type { Say } from "./checkShapes";
import type { Row } from "./model";

/** A file or link has one place, leads where a browser may go, and has its content here or in the bundle. */
export function checkAttachments(rows: readonly Row[], contents: ReadonlySet<string>, say: Say): void {
	for (const row of rows) {
		const { deal_id: deal, account_id: account, url, sha256, size } = row.fields;
		if (Boolean(deal) === Boolean(account)) say(row, "deal_id", deal ?? null, "a file belongs to a deal or to an account: name one of them");
		if (Boolean(url) === Boolean(sha256)) say(row, "url", url ?? null, "a link has an address in url, and a file its sum in sha256: give one of them");
		else if (url) {
			if (!/^https?:\/\/\S+$/i.test(String(url))) say(row, "url", url, "a link starts with https://");
		} else if (!contents.has(String(sha256)))
			say(row, "sha256", sha256 ?? null, "its content isn’t in the bundle’s folder files, and isn’t stored here; put it there under this name");
		else if (!size) say(row, "size", size ?? null, "a file has its size in bytes");
	}
}
