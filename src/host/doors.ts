import { createServer, type RequestListener, type Server } from "node:http";
import { Server as NetServer, Socket } from "node:net";
import { takeTheRest } from "./rest";

/**
 * An idle connection is kept open so long, in ms: longer than browsers and proxies keep theirs. The one that closes first must be
 * who sends, or a request meets a connection that is being closed.
 */
const KEPT_OPEN = 75_000;
/** Where a socket is that was handed over to a process of the server. */
const HANDED = 3;

/** Where requests come in: a port of one’s own, and where one was handed over, a socket that others answer, too. */
export interface Doors {
	readonly listen: (port: number, hostname: string) => void;
	/** Takes requests from the socket that was handed over. */
	readonly listenAsHanded: () => void;
	/**
	 * Takes nothing new, ends what is being answered for so many ms (`patience`), then the process: a connection in use isn’t
	 * closed under a request. An idle one may still bring something for so many ms (`idle`).
	 */
	readonly close: (ends: Ends) => void;
}

export interface Ends {
	readonly patience: number;
	readonly idle: number;
}

export function doors(answer: RequestListener): Doors {
	const servers: Server[] = [];
	let closing = false;
	const open = () => {
		const server = createServer({ keepAliveTimeout: KEPT_OPEN }, (request, response) => {
			// Told to close, the other side sends its next request by a new connection, to who answers then.
			if (closing) response.setHeader("connection", "close");
			takeTheRest(request, response);
			answer(request, response);
		});
		servers.push(server);
		return server;
	};
	return {
		listen: (port, hostname) => void open().listen(port, hostname),
		listenAsHanded() {
			// By its handle each process takes requests from it by itself. Through the first process, as numbers go, what
			// that had taken and not yet passed on would be lost when the last of the others stops taking any.
			const socket = new Socket({ fd: HANDED, readable: false, writable: false });
			open().listen((socket as unknown as { _handle: object })._handle);
		},
		close({ patience, idle }) {
			closing = true;
			let left = servers.length;
			const gone = () => --left <= 0 && process.exit(0);
			// The web server’s own way closes idle connections at once, on which something may be on its way.
			for (const server of servers) NetServer.prototype.close.call(server, gone);
			setTimeout(() => {
				for (const server of servers) server.closeIdleConnections();
			}, idle).unref();
			setTimeout(() => process.exit(0), patience).unref();
		},
	};
}
