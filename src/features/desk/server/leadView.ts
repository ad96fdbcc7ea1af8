/** Something that waits for a manager, and where it is worked off. */
export interface LeadItem {
	readonly id: string;
	readonly words: string;
	readonly about: string;
	readonly path: string;
	readonly level: string | null;
	/** minor units; null where it has none */
	readonly amount: number | null;
}

/** Things of one kind, and where all of them are. */
export interface LeadPart {
	readonly key: string;
	readonly heading: string;
	readonly items: readonly LeadItem[];
	readonly count: number;
	readonly path: string;
}

/** A part with all that is in it. */
export type AllOfPart = Omit<LeadPart, "count">;

export interface LeadDesk {
	/** those that have something */
	readonly parts: readonly LeadPart[];
	/** how many are set aside, and would be there else */
	readonly aside: number;
	/** they were here today already */
	readonly looked: boolean;
	readonly currency: string;
}
