import type { ViewpointChoices } from "@/platform/viewpoint";

/** A place of the program, and its address. */
export interface PlaceView {
	readonly path: string;
	readonly label: string;
}

/** A key that works on a screen: `/deals` alone, with `/` at its end on all below it, null everywhere. */
export interface KeyView {
	readonly key: string;
	readonly label: string;
	readonly on: string | null;
	readonly where: string;
}

/** What surrounds every screen. Days are ISO days. */
export interface FrameView {
	/** the write up to which this is known */
	readonly revision: number;
	/** whose deals the sentence is about, and who looks, by id; null: everybody's */
	readonly people: readonly string[] | null;
	/** deals that wait for a decision since a weekly file hasn't got them; and whether the person makes it */
	readonly undecided: number;
	readonly mayDecide: boolean;
	/** what the person may do here, by the names of rights: nothing is written in the past */
	readonly rights: readonly string[];
	/** why there is nothing to see: no deals at all, or no team whose deals a manager or viewer would see */
	readonly nothing: "no deals" | "no team" | null;
	readonly person: { readonly name: string; readonly place: string; readonly role: string };
	/** the rail's places in order, each with how many wait there, and of what */
	readonly rail: readonly (PlaceView & { readonly key: string; readonly count: number; readonly countLabel: string })[];
	/** further places a search finds */
	readonly places: readonly PlaceView[];
	readonly keys: readonly KeyView[];
	readonly sentence: {
		readonly whose: { readonly key: string; readonly label: string };
		readonly due: { readonly key: string; readonly label: string; readonly start: string | null; readonly end: string | null };
		readonly seen: { readonly day: string; readonly label: string; readonly past: boolean };
		readonly against: { readonly key: string | null; readonly day: string; readonly label: string };
		readonly workingDaysLeft: number | null;
		/** the first day of which anything is known, where a day of the sentence lies before it */
		readonly knownFrom: string | null;
	};
	readonly choices: ViewpointChoices;
	readonly today: string;
	/** what keeps the whole program from working, for ops */
	readonly trouble: string | null;
	/** the database can’t be reached: what is shown is from memory */
	readonly away: boolean;
	readonly heldToday: string | null;
}
