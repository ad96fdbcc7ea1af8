/** What a colour of a picture stands for; its words stand beside it. */
export type Tone = "end" | "in" | "out" | "won" | "commit" | "bestCase" | "pipeline" | "range";

/** A row of bars: parts from one place of the scale to another, and perhaps a mark across it. */
export interface BarRow {
	readonly label: string;
	/** what it comes to, in words */
	readonly words: string;
	readonly parts: readonly { readonly from: number; readonly to: number; readonly tone: Tone }[];
	readonly mark: number | null;
}

/** Rows of bars on one scale that begins at zero. */
export interface BarsPicture {
	readonly kind: "bars";
	/** the whole of it as a sentence, for who doesn’t see it */
	readonly alt: string;
	readonly rows: readonly BarRow[];
	/** what tones, and the mark, stand for; none where the rows say it themselves */
	readonly legend: readonly { readonly tone: Tone | "mark"; readonly words: string }[];
}

/** Lines on one scale that begins at zero, from one day to another. */
export interface LinesPicture {
	readonly kind: "lines";
	readonly alt: string;
	/** the most important first; a line may end early */
	readonly lines: readonly { readonly label: string; readonly values: readonly number[] }[];
	/** how many places each line may have */
	readonly places: number;
	readonly from: string;
	readonly to: string;
	/** a level across all of it */
	readonly mark: { readonly value: number; readonly words: string } | null;
	/** an amount as it stands at the scale */
	readonly amount: (value: number) => string;
}

export type Picture = BarsPicture | LinesPicture;

/** A picture as it lies in a mail. */
export const WIDTH = 600;
