/** The address of a deal. */
export const dealPath = (id: string): string => `/deals/${encodeURIComponent(id)}`;
/** The address of a task, on its deal’s sheet where it has one. */
export const taskPath = (id: string, dealId: string | null): string =>
	dealId ? `${dealPath(dealId)}?task=${encodeURIComponent(id)}` : `/tasks?task=${encodeURIComponent(id)}`;
