import type { FrameView } from "./view";

type Part = "whose" | "due" | "seen" | "against";

export type Changes = Partial<Record<Part, string | null>>;

export interface PhraseProps {
	readonly view: FrameView;
	readonly set: (changes: Changes) => void;
}

export type SeenProps = Pick<PhraseProps, "view"> & { readonly setSeen: (day: string | null) => void };
