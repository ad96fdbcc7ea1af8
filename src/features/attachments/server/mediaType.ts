import { fileTypeFromBuffer } from "file-type";

/** So much is looked at: enough to know a file by, and little enough that nothing unpacks to much. */
const SAMPLE = 64 * 1024;
const UNKNOWN = "application/octet-stream";

/**
 * The media type of a file by its content, whatever its name says. Text is `text/plain`, markup too: what a browser would run
 * is never called by the name that makes it.
 */
export async function mediaTypeOf(bytes: Uint8Array): Promise<string> {
	const sample = bytes.subarray(0, SAMPLE);
	const found = await fileTypeFromBuffer(sample).catch(() => undefined);
	if (found && !/xml|html|svg|javascript/.test(found.mime.replace(/openxmlformats[\w.-]*/, ""))) return found.mime;
	if (found?.mime.includes("openxmlformats")) return found.mime;
	return isText(sample) ? "text/plain" : UNKNOWN;
}

/** Whether bytes read as UTF-8 text; the last sign may be cut. */
function isText(sample: Uint8Array): boolean {
	try {
		const text = new TextDecoder("utf-8", { fatal: true }).decode(sample, { stream: true });
		// biome-ignore lint/suspicious/noControlCharactersInRegex: their absence is what makes text
		return !/[\u0000-\u0008\u000e-\u001a\u001c-\u001f]/.test(text);
	} catch {
		return false;
	}
}
