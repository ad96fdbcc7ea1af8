import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, expect, test } from "vitest";
import { mailOf } from "@/platform/mailRead";
import { endThreads } from "@/platform/threads";

// The thread’s program, as slow as the mail says: 1.5 seconds to start, then so many milliseconds a mail.
const PROGRAM = `
const wait = (ms) => Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, ms);
wait(1500);
export const ready = () => true;
export function readMail(raw) {
	const words = Buffer.from(raw).toString();
	if (words === "malformed") return null;
	if (words === "broken") throw new Error("a fault of our own");
	wait(Number(words));
	return { subject: words };
}
export default () => null;
`;

beforeAll(() => {
	const file = join(mkdtempSync(join(tmpdir(), "thread-")), "threads.mjs");
	writeFileSync(file, PROGRAM);
	process.env.PORCH_LAMP_THREADS = file;
});
afterAll(async () => {
	delete process.env.PORCH_LAMP_THREADS;
	await endThreads();
});

const read = (words: string) => mailOf(Buffer.from(words), 1000).then(({ subject }) => subject, String);

test("neither the start of the thread nor the mails before it count as a mail’s own time", async () => {
	expect(await Promise.all(["600", "600", "600", "0"].map(read))).toEqual(["600", "600", "600", "0"]);
});

test("a mail that takes too long is to be sent again, and holds up none after it; one that is malformed is refused for good", async () => {
	const fates = await Promise.all(["60000", "malformed", "broken", "1"].map(read));
	expect(fates[0]).toContain("Took too long: Reading this mail took longer than 1 seconds. Send it again later.");
	expect(fates[1]).toContain("it has no sender, or is malformed");
	expect(fates[2]).toBe("Error: a fault of our own");
	expect(fates[3]).toBe("1");
});
