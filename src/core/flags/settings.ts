/** What the organisation has set, by code; what isn't named here has its standard. */
export type FlagSettings = Readonly<Record<string, { readonly on?: boolean; readonly [setting: string]: unknown }>>;
