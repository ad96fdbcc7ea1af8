/** Runs something through in steps, and lets others have their turn between them; `told` is called after each. */
export async function runCooperatively<R>(steps: Generator<undefined, R>, told?: () => void): Promise<R> {
	for (;;) {
		const { done, value } = steps.next();
		if (done) return value;
		told?.();
		await new Promise((resolve) => setImmediate(resolve));
	}
}
