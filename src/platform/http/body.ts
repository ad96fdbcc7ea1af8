import { MOST_PACKED, megabytes } from "@/formats/bundle/limits";
import { Fault } from "../fault";

/** Reads the body up to the limit; what is larger is refused before it is all here. `hint` says what to do then. */
export async function readBody(request: Request, hint: string, most = MOST_PACKED): Promise<Uint8Array<ArrayBuffer>> {
	const tooLarge = new Fault(413, "Too large", `The file is larger than ${megabytes(most)}. ${hint}`);
	if (Number(request.headers.get("content-length") ?? 0) > most) throw tooLarge;
	const chunks: Uint8Array[] = [];
	let size = 0;
	const reader = request.body?.getReader();
	for (let part = await reader?.read(); part && !part.done; part = await reader?.read()) {
		size += part.value.length;
		if (size > most) {
			await reader?.cancel();
			throw tooLarge;
		}
		chunks.push(part.value);
	}
	return Buffer.concat(chunks) as Uint8Array<ArrayBuffer>;
}
