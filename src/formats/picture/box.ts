/** A box of a drawing: its style, and the boxes or the words within it. */
export interface Box {
	readonly type: string;
	readonly props: Readonly<Record<string, unknown>>;
}

type Style = Readonly<Record<string, string | number>>;

/** A box whose parts lie as its style says (the web’s flexible boxes). */
export const box = (style: Style, ...within: readonly (Box | string)[]): Box => ({
	type: "div",
	props: { style: { display: "flex", ...style }, children: within.length === 1 ? within[0] : within },
});

/** The colours of the daytime theme: a mail knows no other. */
export const INK = "#232a3d";
export const SECOND = "#5a6275";
export const LINE = "#e6dfd2";
export const CARD = "#fffdf9";
