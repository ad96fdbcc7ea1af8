/**
 * The same list with room for what it holds and no more: one that grew has room for a dozen others, which counts where
 * every open deal keeps some.
 */
export const fitted = <T>(list: readonly T[]): readonly T[] => list.slice();
