import { Fault } from "@/platform/fault";

/** The fault that some work ends in; fails when it ends well, and throws what isn't a fault. */
export async function faultOf(work: () => unknown): Promise<Fault> {
	try {
		await work();
	} catch (error) {
		if (error instanceof Fault) return error;
		throw error;
	}
	throw new Error("this was to be refused, and wasn’t");
}

/** What a schema says is wrong with some input. */
export async function wordsOf(work: () => unknown): Promise<string> {
	try {
		await work();
	} catch (error) {
		return error instanceof Fault ? error.detail : String((error as Error).message);
	}
	return "nothing";
}
