import { connect, createServer } from "node:net";

/** A line of the test's own to a port on loopback that can be cut: what is under way is lost unheard, as in a network, until it is mended. */
export async function line() {
	const pairs = new Set();
	let target = 0;
	let whole = true;
	const server = createServer((near) => {
		if (!whole) return near.destroy();
		const far = connect(target, "127.0.0.1");
		const pair = [near, far];
		pairs.add(pair);
		near.pipe(far);
		far.pipe(near);
		for (const [end, other] of [pair, [far, near]]) {
			end.on("error", () => undefined);
			end.on("close", () => {
				other.destroy();
				pairs.delete(pair);
			});
		}
	});
	await new Promise((resolve) => server.listen(0, "127.0.0.1", resolve));
	const each = (act) => {
		for (const pair of pairs) for (const end of pair) act(end);
	};
	return {
		port: server.address().port,
		to(port) {
			target = port;
		},
		/** Nothing comes through any more; neither side is told. */
		cut() {
			whole = false;
			each((end) => {
				end.unpipe();
				end.pause();
			});
		},
		mend() {
			whole = true;
			each((end) => end.destroy());
		},
		close() {
			each((end) => end.destroy());
			server.close();
		},
	};
}
