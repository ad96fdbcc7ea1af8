import { connect, createServer, type Socket } from "node:net";

type Where = "going" | "gone" | "coming";

/** A line to a server that can be cut: in the midst, or just as a statement's answer comes back. */
export interface Line {
	readonly port: number;
	/** Breaks every connection and refuses new ones, until `mend`. */
	cut(): void;
	mend(): void;
	/** Cuts the line once a text has been sent along it: before the server hears it, once it has, or before its answer is heard. */
	cutAt(text: string, where: Where): void;
	close(): Promise<void>;
}

/** Lays a line to a host and port on loopback. */
export async function layLine(to: { readonly host: string; readonly port: number }): Promise<Line> {
	const pairs = new Set<readonly [Socket, Socket]>();
	let whole = true;
	let trap: { readonly text: string; readonly where: Where } | null = null;
	const cut = () => {
		whole = false;
		for (const pair of pairs) for (const end of pair) end.destroy();
	};
	const server = createServer((near) => {
		if (!whole) return near.destroy();
		const far = connect(to.port, to.host);
		const pair = [near, far] as const;
		pairs.add(pair);
		let sprung = false;
		near.on("data", (bytes) => {
			if (trap && bytes.includes(trap.text)) {
				const { where } = trap;
				trap = null;
				if (where === "going") return cut();
				sprung = true;
				if (where === "gone") return void far.write(bytes, cut);
			}
			far.write(bytes);
		});
		far.on("data", (bytes) => {
			if (sprung) return cut();
			near.write(bytes);
		});
		for (const [end, other] of [pair, [far, near]] as const) {
			end.on("error", () => undefined);
			end.on("close", () => {
				other.destroy();
				pairs.delete(pair);
			});
		}
	});
	await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
	return {
		port: (server.address() as { port: number }).port,
		cut,
		mend: () => {
			whole = true;
		},
		cutAt: (text, where) => {
			trap = { text, where };
		},
		close: () =>
			new Promise((resolve) => {
				cut();
				server.close(() => resolve());
			}),
	};
}
