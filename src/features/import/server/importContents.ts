import type { Tx } from "@/data/db";
import { keepContent, keptOf } from "@/data/store/contents";
import { type Contents, isWhole } from "@/formats/bundle/contents";
import type { Bundle, Row } from "@/formats/bundle/model";
import type { BundleFile } from "@/formats/bundle/spec";

const FILE = "attachments.csv";
const sumsOf = (rows: readonly Row[] | undefined) => [...new Set((rows ?? []).flatMap(({ fields: { sha256 } }) => (sha256 ? [String(sha256)] : [])))];

/** The sums a bundle’s files name whose contents are stored here, or came along and are what their names say. */
export async function wholeContents(tx: Tx, bundle: Bundle, contents: Contents): Promise<ReadonlySet<string>> {
	const named = sumsOf(bundle.files.get(FILE));
	const found = await keptOf(tx, named);
	for (const sum of named) if (!found.has(sum) && contents.sums.has(sum) && (await isWhole(contents, sum))) found.add(sum);
	return found;
}

/** Stores what the files that are written hold, one at a time. */
export async function keepContents(tx: Tx, good: ReadonlyMap<BundleFile, readonly Row[]>, contents: Contents): Promise<void> {
	for (const sum of sumsOf(good.get(FILE))) if (contents.sums.has(sum)) await keepContent(tx, await contents.read(sum));
}
