const streamed = new WeakSet<Response>();

/** An answer that is sent while it is made, so that none of it is gathered before: for what may be as large as a company. */
export function streamedAnswer(body: ReadableStream<Uint8Array>, headers: Readonly<Record<string, string>>): Response {
	const answer = new Response(body, { headers });
	streamed.add(answer);
	return answer;
}

export const isStreamed = (answer: Response): boolean => streamed.has(answer);
