/** A use case that can't be carried out, in words for the person. The status is HTTP's. */
export class Fault extends Error {
	constructor(
		readonly status: 400 | 401 | 403 | 404 | 409 | 412 | 413 | 422 | 428 | 429 | 503 | 507,
		readonly title: string,
		readonly detail: string,
		readonly more: Readonly<Record<string, unknown>> = {},
	) {
		super(`${title}: ${detail}`);
	}
}

/** The fault for what isn’t there or out of reach: the two can’t be told apart. */
export const notFound = (what: string, id: string) => new Fault(404, "Not found", `There is no ${what} ${id}, or you may not see it.`);
