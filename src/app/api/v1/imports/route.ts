import { z } from "zod";
import { ENDPOINTS } from "@/features/contract";
import { startImport } from "@/features/import/server/importBundle";
import { callerOf, faultResponse } from "@/platform/http/api";
import { readBody } from "@/platform/http/body";
import { serve } from "@/platform/http/serve";
import { demand } from "@/platform/rights";

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
		const bytes = await readBody(request, "Split it, or import it on the server with npm run import -- DIR.");
		const { id, end } = await startImport(context, bytes, { dryRun: query.dry_run, skipBad: query.skip_bad, name: query.name });
		if (!query.wait) return Response.json({ id }, { status: 202 });
		const report = await end;
		return Response.json(report, { status: report.state === "refused" ? 422 : report.state === "failed" ? 500 : 200 });
	} catch (error) {
		return faultResponse(error);
	}
}
