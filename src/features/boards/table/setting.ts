/** Something that can be chosen or written for a tile. */
export interface TileSetting {
	readonly name: string;
	readonly label: string;
	/** to choose from; none: text is written */
	readonly choices?: readonly { readonly value: string; readonly label: string }[];
	/** several lines */
	readonly long?: boolean;
}
