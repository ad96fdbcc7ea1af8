import { exportBundle } from "@/features/import/server/exportBundle";
import { zipFiles } from "@/formats/bundle/write";
import { callerOf, faultResponse } from "@/platform/http/api";

/** The whole organisation as a bundle, zipped. */
export async function GET(request: Request): Promise<Response> {
	try {
		const zip = zipFiles(await exportBundle(await callerOf(request)));
		return new Response(Buffer.from(zip), {
			headers: { "content-type": "application/zip", "content-disposition": 'attachment; filename="porch-lamp-bundle.zip"' },
		});
	} catch (error) {
		return faultResponse(error);
	}
}
