import type { Merged } from "./merged";
import type { Problem, Row } from "./model";
import type { BundleFile } from "./spec";

/** What is there already, so that a bundle may refer to it. */
export interface Known {
	readonly ids: ReadonlyMap<BundleFile, ReadonlySet<string>>;
	readonly rateCurrencies: ReadonlySet<string>;
	readonly baseCurrency: string;
	/** team by the parent it has */
	readonly teamParents: ReadonlyMap<string, string | null>;
	readonly merged: Merged;
	/** person by e-mail, in lower case */
	readonly emails: ReadonlyMap<string, string>;
	readonly stagePositions: ReadonlyMap<number, string>;
	/** when the deals that are there were created, ms since the epoch */
	readonly createdAt: ReadonlyMap<string, number>;
	/** the sums of contents of files that are stored, or came along whole; none where they aren’t asked about */
	readonly contents?: ReadonlySet<string>;
	/** the end of today in the organisation, ms since the epoch: nothing that is said to have happened lies after it */
	readonly latest: number;
}

export interface Checked {
	readonly problems: Problem[];
	/** the rows without problems, by file: what may be written */
	readonly good: ReadonlyMap<BundleFile, readonly Row[]>;
}

export type Say = (row: Row, column: string | null, value: unknown, reason: string, restsOn?: string) => void;
