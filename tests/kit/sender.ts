import { sendWaiting } from "@/features/reaching/server/send";

// A process of its own that sends what waits until it is killed: run by the test that kills it.
for (;;) {
	await sendWaiting().catch(() => undefined);
	await new Promise((resolve) => setTimeout(resolve, 20));
}
