import { CALLS } from "@/features/registry";
import { openApi } from "@/platform/http/openapi";

export function GET(): Response {
	return Response.json(openApi(CALLS));
}
