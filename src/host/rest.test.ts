import { createServer, type IncomingMessage } from "node:http";
import { type AddressInfo, connect } from "node:net";
import { Readable } from "node:stream";
import { afterEach, expect, test } from "vitest";
import { takeTheRest } from "./rest";

let close = () => {};
afterEach(() => close());

/** Sends so many bytes to a server that refuses them, and says what it heard and whether all of it was taken. */
async function sent(bytes: number, begin: (request: IncomingMessage) => void): Promise<{ heard: string; taken: boolean }> {
	const server = createServer(async (request, response) => {
		takeTheRest(request, response);
		begin(request);
		// Until what was begun holds the rest back.
		await new Promise((resolve) => setTimeout(resolve, 50));
		response.writeHead(413, { "content-length": 9 }).end("too large");
	});
	await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
	const socket = connect((server.address() as AddressInfo).port, "127.0.0.1");
	close = () => {
		socket.destroy();
		server.closeAllConnections();
		server.close();
	};
	let heard = "";
	socket.on("data", (text) => {
		heard += text;
	});
	socket.write(`POST / HTTP/1.1\r\nHost: x\r\nContent-Length: ${bytes}\r\n\r\n`);
	const taken = await Promise.race([
		new Promise<boolean>((resolve) => socket.write(Buffer.alloc(bytes), (error) => resolve(!error))),
		new Promise<boolean>((resolve) => setTimeout(resolve, 4000, false)),
	]);
	return { heard, taken };
}
const LARGE = 40 * 2 ** 20;

test("what is refused unread is taken to its end, so that the answer is heard at once", async () => {
	const { heard, taken } = await sent(LARGE, () => undefined);
	expect([taken, heard.startsWith("HTTP/1.1 413")]).toEqual([true, true]);
});
test("so is what somebody began to read as a stream and left", async () => {
	const { heard, taken } = await sent(LARGE, (request) => void Readable.toWeb(request));
	expect([taken, heard.startsWith("HTTP/1.1 413")]).toEqual([true, true]);
});
test("and what somebody read a part of", async () => {
	const { heard, taken } = await sent(LARGE, (request) => void Readable.toWeb(request).getReader().read());
	expect([taken, heard.startsWith("HTTP/1.1 413")]).toEqual([true, true]);
});
