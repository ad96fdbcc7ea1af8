import { z } from "zod";
import { DAYS_TAKEN, inBounds } from "@/core/time/day";
import { Fault } from "./fault";

/** An id as it comes from outside: the sender's own, or one of ours. */
export const idSchema = z.string().min(1).max(200);

/** A day that something is to be dated to. */
export const dayInput = z.iso.date("This isn’t a valid day.").refine(inBounds, `This day is out of range: ${DAYS_TAKEN}.`);

/** A zero, or half of a character that takes two places: no text that can be kept has one. */
// biome-ignore lint/suspicious/noControlCharactersInRegex: it is what is looked for
const UNSOUND = /\u0000|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/;
const MOST_DEEP = 40;

/**
 * Throws a 400 where something that was sent holds a text that can't be kept, or is nested beyond all measure. The words
 * name the place.
 */
export function assertStorable(value: unknown, at = "", depth = 0): void {
	if (typeof value === "string" && UNSOUND.test(value))
		throw new Fault(400, "Bad request", `${at || "The text"} contains a character that can’t be stored (a NUL or half a surrogate pair). Enter it again.`);
	if (typeof value !== "object" || value === null || value instanceof Uint8Array || value instanceof File) return;
	if (depth > MOST_DEEP) throw new Fault(400, "Bad request", `${at} is nested too deep.`);
	for (const [name, one] of Object.entries(value)) {
		if (UNSOUND.test(name)) throw new Fault(400, "Bad request", "A field name contains a character that can’t be stored.");
		assertStorable(one, at ? `${at}.${name}` : name, depth + 1);
	}
}
