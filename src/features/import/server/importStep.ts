import type { ImportStep } from "@/data/schema";

const WORDS: Readonly<Record<Exclude<ImportStep, `writing ${string}`> | "died", string>> = {
	"": "",
	demo: "Making the demo company",
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
export const stepWords = (step: ImportStep | "died"): string =>
	step in WORDS ? WORDS[step as keyof typeof WORDS] : `Writing ${step.replace(/^writing /, "")}`;
