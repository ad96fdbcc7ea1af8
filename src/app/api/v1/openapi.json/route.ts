import { openApi } from "@/features/openapi";

export function GET(): Response {
	return Response.json(openApi());
}
