import DataLoader from "dataloader";

/**
 * A loader of one key made of a question of many, without a memory: what is asked while an answer is on its way is asked
 * together next, so that a busy process asks no more often than it is answered. An answer is never older than its question.
 *
 * @param ask answers some keys at once; a key that isn't in the answer is unknown
 * @throws whatever `ask` throws, to all who asked with it
 * @example const personOf = batched(async (ids: string[]) => new Map((await people(ids)).map((one) => [one.id, one])));
 */
export function batched<K, V>(ask: (keys: K[]) => Promise<ReadonlyMap<K, V>>): (key: K) => Promise<V | undefined> {
	let underWay: Promise<unknown> = Promise.resolve();
	const loader = new DataLoader<K, V | undefined>(
		async (keys) => {
			const work = ask([...new Set(keys)]);
			underWay = work.catch(() => undefined);
			const answers = await work;
			return keys.map((key) => answers.get(key));
		},
		{ cache: false, batchScheduleFn: (dispatch) => void underWay.then(dispatch) },
	);
	return (key) => loader.load(key);
}
