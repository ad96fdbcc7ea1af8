/** The largest zip that is taken, and the most it may unpack to, in bytes. */
export const MOST_PACKED = 64 * 2 ** 20;
export const MOST_UNPACKED = 256 * 2 ** 20;

/** Bytes in whole megabytes, as a message says them. */
export const megabytes = (bytes: number) => `${Math.round(bytes / 2 ** 20)} MB`;
