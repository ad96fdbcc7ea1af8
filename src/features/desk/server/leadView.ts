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

export interface LeadDesk {
	/** those that have something */
	readonly parts: readonly LeadPart[];
	readonly currency: string;
}
