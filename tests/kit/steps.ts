/** Goes through all steps of some work without a pause, and answers what it comes to. */
export function through<R>(steps: Generator<undefined, R>): R {
	for (;;) {
		const { done, value } = steps.next();
		if (done) return value;
	}
}
