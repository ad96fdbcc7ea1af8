const all = globalThis as { porchLamp?: Map<string, unknown> };

/**
 * One of a kind for the whole process, under a name. The framework builds pages, routes and what starts the server
 * apart from one another, so that a variable of a module can be there several times; this is there once.
 *
 * @example const limits = processSingleton("limits", () => new Limits());
 */
export function processSingleton<T>(name: string, make: () => T): T {
	all.porchLamp ??= new Map();
	if (!all.porchLamp.has(name)) all.porchLamp.set(name, make());
	return all.porchLamp.get(name) as T;
}
