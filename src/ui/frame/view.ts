import type { ViewpointChoices } from "@/platform/viewpoint";

/** What surrounds every screen. Days are ISO days. */
export interface FrameView {
	readonly person: { readonly name: string; readonly place: string; readonly role: string };
	readonly counts: { readonly deals: number; readonly tasks: number; readonly desk: number };
	readonly sentence: {
		readonly whose: { readonly key: string; readonly words: string };
		readonly due: { readonly key: string; readonly words: string; readonly start: string | null; readonly end: string | null };
		readonly seen: { readonly day: string; readonly words: string; readonly past: boolean };
		readonly against: { readonly key: string | null; readonly day: string; readonly words: string };
		readonly workingDaysLeft: number | null;
		/** the first day of which anything is known, where a day of the sentence lies before it */
		readonly knownFrom: string | null;
	};
	readonly choices: ViewpointChoices;
	readonly today: string;
	readonly heldToday: string | null;
}
