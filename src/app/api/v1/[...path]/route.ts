import { apiAnswer } from "@/app/server/answers";

interface Route {
	readonly params: Promise<{ path: string[] }>;
}

/** The one route handler of the API: the calls of the capabilities are its list. */
const answer = async (request: Request, { params }: Route) => apiAnswer(request, (await params).path);

export { answer as DELETE, answer as GET, answer as PATCH, answer as POST };
