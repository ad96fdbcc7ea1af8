import { z } from "zod";
import { callerOf, faultResponse } from "@/app/server/api";
import { ENDPOINTS } from "@/app/server/contract";
import { serve } from "@/app/server/serve";
import { MOST_PACKED } from "@/formats/bundle/limits";
import { Fault } from "@/usecases/fault";
import { startImport } from "@/usecases/importBundle";
import { demand } from "@/usecases/rights";

export const GET = serve(ENDPOINTS.listImports);

const yes = z
	.enum(["true", "false"])
	.default("false")
	.transform((text) => text === "true");
const querySchema = z.object({
	dry_run: yes,
	skip_bad: yes,
	wait: z
		.enum(["true", "false"])
		.default("true")
		.transform((text) => text === "true"),
	name: z.string().max(200).default("bundle.zip"),
});

/**
 * Takes a bundle as a zip. Answers when it is done, or with `wait=false` at once with 202 and the id to
 * follow. 422 with the report when rows have problems: then nothing is written.
 */
export async function POST(request: Request): Promise<Response> {
	try {
		const context = await callerOf(request);
		demand(context.actor, "importBundle");
		const query = querySchema.parse(Object.fromEntries(new URL(request.url).searchParams));
		const bytes = await readBody(request);
		const { id, end } = await startImport(context, bytes, { dryRun: query.dry_run, skipBad: query.skip_bad, name: query.name });
		if (!query.wait) return Response.json({ id }, { status: 202 });
		const report = await end;
		return Response.json(report, { status: report.state === "refused" ? 422 : report.state === "failed" ? 500 : 200 });
	} catch (error) {
		return faultResponse(error);
	}
}

/** Reads the body up to the limit; what is larger is refused before it is all here. */
async function readBody(request: Request): Promise<Uint8Array> {
	const most = Math.round(MOST_PACKED / 2 ** 20);
	const tooLarge = new Fault(413, "Too large", `The file is larger than ${most} MB. Split it, or import it on the server with npm run import -- DIR.`);
	if (Number(request.headers.get("content-length") ?? 0) > MOST_PACKED) throw tooLarge;
	const chunks: Uint8Array[] = [];
	let size = 0;
	const reader = request.body?.getReader();
	for (let part = await reader?.read(); part && !part.done; part = await reader?.read()) {
		size += part.value.length;
		if (size > MOST_PACKED) {
			await reader?.cancel();
			throw tooLarge;
		}
		chunks.push(part.value);
	}
	return Buffer.concat(chunks);
}
