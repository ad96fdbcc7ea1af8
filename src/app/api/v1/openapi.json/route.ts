import { openApi } from "@/app/server/openapi";

export function GET(): Response {
	return Response.json(openApi());
}
