import { readdir, readFile, stat } from "node:fs/promises";
import { basename, join } from "node:path";
import yauzl from "yauzl";
import { CONTENTS, contentName } from "./contents";
import { MOST_PACKED, MOST_UNPACKED, megabytes } from "./limits";
import type { RawFiles } from "./model";

const MOST_FILES = 200;
const MOST_CONTENTS = 20_000;

/** Why a folder or zip can't be opened at all, in words for the person who sent it. */
export class UnpackFault extends Error {
	constructor(
		readonly file: string,
		message: string,
	) {
		super(message);
	}
}

/** The bundle's files in a zip. Folders within are ignored, as are files that archivers add of their own. */
export async function unzip(bytes: Uint8Array, name = "bundle.zip"): Promise<RawFiles> {
	if (bytes.length > MOST_PACKED) throw new UnpackFault(name, `the zip has ${megabytes(bytes.length)}; at most ${megabytes(MOST_PACKED)} are allowed`);
	if (!bytes.length) throw new UnpackFault(name, "the file is empty; send a zip of the bundle’s files");
	const zip = await open(bytes, name);
	const files = new Map<string, Uint8Array>();
	let total = 0;
	let tables = 0;
	try {
		if (zip.entryCount > MOST_FILES + MOST_CONTENTS)
			throw new UnpackFault(name, `the zip holds ${zip.entryCount} files; a bundle has at most ${MOST_FILES}, and ${MOST_CONTENTS} in its folder files`);
		for await (const entry of zip.eachEntry()) {
			const file = contentName(entry.fileName) ?? basename(entry.fileName);
			if (entry.fileName.endsWith("/") || entry.fileName.startsWith("__MACOSX/") || basename(entry.fileName).startsWith(".")) continue;
			if (!file.startsWith(CONTENTS) && ++tables > MOST_FILES)
				throw new UnpackFault(name, `the zip holds more than ${MOST_FILES} files beside its folder files`);
			if (files.has(file)) throw new UnpackFault(file, "the zip holds two files of this name");
			if (entry.uncompressedSize > MOST_UNPACKED)
				throw new UnpackFault(file, `this file has ${megabytes(entry.uncompressedSize)}; at most ${megabytes(MOST_UNPACKED)} are allowed`);
			const content = await contentOf(zip, entry, MOST_UNPACKED - total);
			total += content.length;
			files.set(file, content);
		}
	} catch (error) {
		if (error instanceof UnpackFault) throw error;
		throw new UnpackFault(name, `the zip is damaged (${(error as Error).message})`);
	} finally {
		zip.close();
	}
	if (!files.size) throw new UnpackFault(name, "the zip holds no files");
	return files;
}

function open(bytes: Uint8Array, name: string): Promise<yauzl.ZipFile> {
	return new Promise((resolve, reject) => {
		yauzl.fromBuffer(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length), { lazyEntries: true, validateEntrySizes: true }, (error, zip) => {
			if (error) reject(new UnpackFault(name, "this isn’t a zip, or it is damaged"));
			else resolve(zip);
		});
	});
}

async function contentOf(zip: yauzl.ZipFile, entry: yauzl.Entry, room: number): Promise<Uint8Array> {
	const stream = await new Promise<NodeJS.ReadableStream>((resolve, reject) =>
		zip.openReadStream(entry, (error, opened) => (error ? reject(error) : resolve(opened))),
	);
	const chunks: Buffer[] = [];
	let size = 0;
	for await (const chunk of stream) {
		size += (chunk as Buffer).length;
		if (size > room) throw new UnpackFault(entry.fileName, `the files unpack to more than ${megabytes(MOST_UNPACKED)}`);
		chunks.push(chunk as Buffer);
	}
	return Buffer.concat(chunks);
}

/** The bundle's files in a folder. Files of other kinds beside them are left alone. */
export async function readFolder(path: string): Promise<RawFiles> {
	const files = new Map<string, Uint8Array>();
	let total = 0;
	for (const name of (await readdir(path)).sort()) {
		if (!/\.(csv|json)$/.test(name)) continue;
		total += (await stat(join(path, name))).size;
		if (total > MOST_UNPACKED) throw new UnpackFault(name, `the files have more than ${megabytes(MOST_UNPACKED)} together`);
		files.set(name, await readFile(join(path, name)));
	}
	if (!files.size) throw new UnpackFault(path, "the folder holds no CSV files");
	return files;
}
