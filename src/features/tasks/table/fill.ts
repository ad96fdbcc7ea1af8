/** What may be filled into a task's text, by the name that stands in braces. */
export const FILLED = ["deal", "account", "close date", "owner", "flag"] as const;
export type Filled = Readonly<Record<(typeof FILLED)[number], string>>;

/**
 * A text with the fields of a deal filled in; what isn't the name of one stays as it is written.
 *
 * @example fillIn("Ask {account} about {close date}", of) // Ask Brightloaf about 18 Dec
 */
export const fillIn = (text: string, of: Filled): string =>
	text.replace(/\{([^{}]*)\}/g, (whole, name: string) => of[name.trim().toLowerCase() as keyof Filled] ?? whole);

/** Names in braces that nothing is filled in for. */
export const unknownFields = (text: string): string[] =>
	[...text.matchAll(/\{([^{}]*)\}/g)].flatMap(([whole, name = ""]) => ((FILLED as readonly string[]).includes(name.trim().toLowerCase()) ? [] : [whole]));
