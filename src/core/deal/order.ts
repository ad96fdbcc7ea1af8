import type { Company } from "../company";

/**
 * Orders texts by their characters, as the database does where it compares bytes.
 *
 * @example ["b", "a", "B"].sort(byText) // ["B", "a", "b"]
 */
export const byText = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

/** Orders deals, given by their place, by their ids: where lists have nothing else to go by. Places say nothing, since a new deal takes the next one. */
export const byId =
	({ deals }: Pick<Company, "deals">) =>
	(a: number, b: number): number =>
		byText(deals[a]?.id ?? "", deals[b]?.id ?? "");
