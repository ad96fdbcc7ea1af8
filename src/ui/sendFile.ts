/** What came of a file that was sent: what it became, why it wasn’t taken, or (null) that it was cancelled. */
export type SentFile = { readonly id: string } | { readonly fault: string } | null;

interface Following {
	/** how much has gone, 0 to 1 */
	readonly told: (done: number) => void;
	readonly started: (cancel: () => void) => void;
}

/** Sends a file as the body of a call of the API, telling how much of it has gone, which `fetch` doesn’t. */
export function sendFile(
	path: string,
	query: readonly (readonly [name: string, value: string])[],
	file: File,
	{ told, started }: Following,
): Promise<SentFile> {
	return new Promise((resolve) => {
		const request = new XMLHttpRequest();
		request.open("POST", `/api/v1/${path}?${new URLSearchParams(query.map(([name, value]) => [name, value]))}`);
		request.setRequestHeader("content-type", "application/octet-stream");
		// Sent again after a lost answer it is still one file.
		request.setRequestHeader("idempotency-key", crypto.randomUUID());
		request.responseType = "json";
		request.upload.onprogress = ({ loaded, total }) => told(total ? loaded / total : 0);
		request.onload = () => {
			const answer = request.response as { id?: string; detail?: string } | null;
			resolve(request.status < 300 && answer?.id ? { id: answer.id } : { fault: answer?.detail ?? "The server didn’t take it. Try again." });
		};
		request.onerror = () => resolve({ fault: "The connection is down, and nothing was changed. Try again." });
		request.onabort = () => resolve(null);
		started(() => request.abort());
		request.send(file);
	});
}
