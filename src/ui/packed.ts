/** What a screen shows, as one text: the framework takes a long text along at once, where it would go through each part of an object, twice. */
export type Packed<P> = string & { readonly of?: P };

/** Packs what a screen shows; plain data, without functions, dates or maps. */
export const pack = <P extends object>(props: P): Packed<P> => JSON.stringify(props);
