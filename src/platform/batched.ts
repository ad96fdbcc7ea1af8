/**
 * Makes a question of one key from a question of many: what is asked while an answer is on its way is asked together
 * next, so that a busy process asks no more often than it is answered. An answer is never older than its question.
 *
 * @param ask answers some keys at once; a key that isn't in the answer is unknown
 * @throws whatever `ask` throws, to all who asked with it
 * @example const personOf = batched(async (ids: string[]) => new Map((await people(ids)).map((one) => [one.id, one])));
 */
export function batched<K, V>(ask: (keys: K[]) => Promise<ReadonlyMap<K, V>>): (key: K) => Promise<V | undefined> {
	let waiting = new Map<K, Deferred<V | undefined>>();
	let asking = false;
	const next = async () => {
		if (asking || !waiting.size) return;
		asking = true;
		const these = waiting;
		waiting = new Map();
		try {
			const answers = await ask([...these.keys()]);
			for (const [key, one] of these) one.resolve(answers.get(key));
		} catch (error) {
			for (const one of these.values()) one.reject(error);
		} finally {
			asking = false;
			void next();
		}
	};
	return (key) => {
		const known = waiting.get(key);
		if (known) return known.promise;
		const asked = deferred<V | undefined>();
		waiting.set(key, asked);
		// After those who ask in the same turn.
		queueMicrotask(() => void next());
		return asked.promise;
	};
}

interface Deferred<T> {
	readonly promise: Promise<T>;
	readonly resolve: (value: T) => void;
	readonly reject: (why: unknown) => void;
}

function deferred<T>(): Deferred<T> {
	let settle: Pick<Deferred<T>, "resolve" | "reject"> = { resolve: () => undefined, reject: () => undefined };
	const promise = new Promise<T>((resolve, reject) => {
		settle = { resolve, reject };
	});
	return { promise, ...settle };
}
