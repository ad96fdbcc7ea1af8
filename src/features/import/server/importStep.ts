/** What an import is at, as it is stored; words are made when it is read. */
export type ImportStep = "" | "opening" | "reading" | "checking" | `writing ${string}` | "needed" | "died";

const WORDS: Readonly<Record<string, string>> = {
	"": "",
	opening: "Opening the files",
	reading: "Reading the files",
	checking: "Checking names and references",
	needed: "Rows that other rows refer to can’t be skipped",
	died: "The server stopped during the import; nothing was imported",
};

/**
 * A step in words: `Writing deals.csv`.
 *
 * @example stepWords("writing deals.csv") // "Writing deals.csv"
 */
export const stepWords = (step: string): string => WORDS[step] ?? `Writing ${step.replace(/^writing /, "")}`;
