// Types of packages that come without any.
declare module "mbox-reader" {
	/** Messages of an mbox, each once it is read whole. */
	export function mboxReader(source: NodeJS.ReadableStream): AsyncGenerator<{ readonly content: Buffer; readonly readSize: number }>;
}
