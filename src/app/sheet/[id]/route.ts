import { sheetAnswer } from "@/app/server/answers";

export async function GET(request: Request, route: { params: Promise<{ id: string }> }): Promise<Response> {
	return sheetAnswer(request, (await route.params).id);
}
