/**
 * What the folder of a feed is called: its name in small letters, what isn’t a letter or number as hyphens.
 *
 * @example folderName("Monday’s report") // "monday-s-report"
 */
export const folderName = (name: string): string =>
	name
		.normalize("NFKD")
		.replace(/\p{Mark}/gu, "")
		.toLowerCase()
		.replace(/[^a-z0-9]+/g, "-")
		.replace(/^-+|-+$/g, "");
