/** Puts a program of TypeScript into one file that Node runs as it is. */
export function bundle(entry: string, outfile: string): Promise<void>;
