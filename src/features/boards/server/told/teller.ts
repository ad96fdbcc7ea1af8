import type { Context } from "@/platform/context";
import type { Told } from "@/platform/told";
import type { Viewpoint } from "@/platform/viewpoint";

/** What a tile says where no screen is. The reads it is made of check the rights. */
export interface Teller {
	/** the key of its kind */
	readonly key: string;
	readonly tell: (context: Context, viewpoint: Viewpoint, settings: Readonly<Record<string, string>>) => Promise<Told> | Told;
}

/**
 * Makes what tells of a kind of tile.
 *
 * @example export const textTold = teller({ key: "text", tell: (_, __, { text = "" }) => ({ title: "", says: [text], path: null }) });
 */
export const teller = (given: Teller): Teller => given;

/** What is told where a tile needs a period that begins and ends. */
export const noPeriod = (title: string): Told => ({ title, says: ["This needs a period with a start and an end."], path: null });
