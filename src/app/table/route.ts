import { exportTable } from "@/features/deals/server/exportTable";
import { callerOf, faultResponse, jsonBody } from "@/platform/http/api";
import { resolveViewpoint } from "@/platform/viewpoint";

/** What the table of deals shows, as CSV or XLSX. */
export async function POST(request: Request): Promise<Response> {
	try {
		const context = await callerOf(request);
		const query = new URL(request.url).searchParams;
		const part = (name: string) => query.get(name) ?? undefined;
		const viewpoint = resolveViewpoint(context, { whose: part("whose"), due: part("due"), seen: part("seen"), against: part("against") });
		const { name, type, bytes } = await exportTable(context, viewpoint, await jsonBody(request));
		return new Response(new Blob([bytes as BlobPart]), { headers: { "content-type": type, "content-disposition": `attachment; filename="${name}"` } });
	} catch (error) {
		return faultResponse(error);
	}
}
