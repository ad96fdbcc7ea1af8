import { promisify } from "node:util";
import { deserialize, serialize } from "node:v8";
import { deflateRaw, inflateRaw } from "node:zlib";

const [squeeze, unsqueeze] = [promisify(deflateRaw), promisify(inflateRaw)];

/** How hard to compress: what is read at a start had better be quick than small. */
const LEVEL = 1;
const TYPES = [Float64Array, Int32Array, Int16Array, Int8Array] as const;
type Typed = InstanceType<(typeof TYPES)[number]>;

/** Where an array stands among the bytes of all: they follow one another, each at a multiple of eight bytes. */
type Place = [type: number, at: number, length: number];

/** What data says, and its arrays one after another. */
interface Packed {
	readonly rest: Buffer;
	readonly arrays: Buffer;
}

const rounded = (bytes: number) => Math.ceil(bytes / 8) * 8;

/** Plain data with typed arrays in its objects (none in its lists) as two texts of bytes: what it says, and its arrays. */
export function packed(value: object): Packed {
	const found: Typed[] = [];
	const places: Place[] = [];
	let end = 0;
	const without = (of: object): object =>
		Object.fromEntries(
			Object.entries(of).map(([name, part]) => {
				const type = TYPES.findIndex((known) => part instanceof known);
				if (type < 0) return [name, part !== null && typeof part === "object" && !Array.isArray(part) ? without(part) : part];
				found.push(part);
				places.push([type, end, part.length]);
				end += rounded(part.byteLength);
				return [`${MARK}${name}`, places.length - 1];
			}),
		);
	const rest = serialize([without(value), places]);
	const arrays = Buffer.alloc(end);
	found.forEach((one, i) => {
		arrays.set(new Uint8Array(one.buffer, one.byteOffset, one.byteLength), places[i]?.[1]);
	});
	return { rest, arrays };
}
/** Before the names of what is an array. */
const MARK = "▦";

/** The same data again; its arrays are views of the bytes given, which are not copied. */
export function unpacked({ rest, arrays }: Packed): object {
	const [value, places] = deserialize(rest) as [object, Place[]];
	// Arrays of eight bytes want to begin at a multiple of eight.
	const whole = arrays.byteOffset % 8 ? new Uint8Array(arrays) : arrays;
	const withArrays = (of: object): object =>
		Object.fromEntries(
			Object.entries(of).map(([name, part]) => {
				if (name.startsWith(MARK)) {
					const [type, at, length] = places[part as number] as Place;
					const Type = TYPES[type] as (typeof TYPES)[number];
					return [name.slice(MARK.length), new Type(whole.buffer as ArrayBuffer, whole.byteOffset + at, length)];
				}
				return [name, part !== null && typeof part === "object" && !Array.isArray(part) ? withArrays(part) : part];
			}),
		);
	return withArrays(value);
}

/** Both texts compressed, one after the other; the length of the first stands before it. */
export async function squeezed({ rest, arrays }: Packed): Promise<Buffer> {
	const parts = await Promise.all([rest, arrays].map((bytes) => squeeze(bytes, { level: LEVEL })));
	const length = Buffer.alloc(4);
	length.writeUInt32LE(parts[0]?.length ?? 0);
	return Buffer.concat([length, ...parts]);
}

/** The texts of compressed bytes. */
export async function unsqueezed(bytes: Buffer): Promise<Packed> {
	const end = 4 + bytes.readUInt32LE(0);
	const [rest, arrays] = await Promise.all([unsqueeze(bytes.subarray(4, end)), unsqueeze(bytes.subarray(end))]);
	return { rest, arrays };
}
