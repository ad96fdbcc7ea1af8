import { randomBytes } from "node:crypto";
import { createServer, type IncomingMessage, type Server, type ServerResponse } from "node:http";
import type { AddressInfo } from "node:net";
import Provider, { type Configuration } from "oidc-provider";

/** Somebody whom the stand-in knows: they sign in there by their login, with any password. */
export interface Known {
	readonly name: string;
	readonly email: string;
	readonly groups: readonly string[];
	/** false: the address isn’t shown to be theirs */
	readonly verified?: boolean;
}

export interface StandIn {
	readonly issuer: string;
	readonly clientId: string;
	readonly clientSecret: string;
	/** may be changed while it runs: who is taken out can’t sign in any more */
	readonly people: Map<string, Known>;
	readonly stop: () => Promise<void>;
}

/**
 * A provider of OpenID Connect on loopback, for trying and for tests alone: it believes what anyone says of themselves.
 *
 * @param app the program’s address, which it sends people back to
 */
export async function startStandIn(app: string, people: Map<string, Known>, port = 0): Promise<StandIn> {
	const server: Server = createServer();
	await new Promise<void>((resolve) => server.listen(port, "127.0.0.1", resolve));
	const issuer = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
	const [clientId, clientSecret] = ["porch-lamp", randomBytes(24).toString("base64url")];
	const provider = new Provider(issuer, configurationOf(app, clientId, clientSecret, people));
	const answer = provider.callback();
	server.on("request", (request, response) => {
		if (request.url?.startsWith(LOGIN)) loginPage(provider, people, request, response).catch((error: Error) => response.writeHead(400).end(error.message));
		else answer(request, response);
	});
	return {
		issuer,
		clientId,
		clientSecret,
		people,
		stop: () =>
			new Promise((resolve) => {
				server.close(() => resolve());
				server.closeAllConnections();
			}),
	};
}

/** What the stand-in tells and asks: all it knows of somebody, and nobody whether it may. */
const configurationOf = (app: string, clientId: string, clientSecret: string, people: ReadonlyMap<string, Known>): Configuration => ({
	clients: [
		{
			client_id: clientId,
			client_secret: clientSecret,
			redirect_uris: [`${app}/sign-in/provider/back`],
			post_logout_redirect_uris: [`${app}/sign-in`],
			backchannel_logout_uri: `${app}/sign-in/provider/ended`,
			backchannel_logout_session_required: true,
		},
	],
	claims: { openid: ["sub"], email: ["email", "email_verified"], profile: ["name", "groups"] },
	cookies: { keys: [randomBytes(32).toString("hex")] },
	features: {
		devInteractions: { enabled: false },
		backchannelLogout: { enabled: true },
		rpInitiatedLogout: {
			logoutSource: (context, form) => {
				context.body = page("Sign out", `${form}<button form="op.logoutForm" name="logout" value="yes">Sign out</button>`);
			},
		},
	},
	interactions: { url: (_, { uid }) => `${LOGIN}${uid}` },
	// Nobody is asked whether the program may know what it asks for.
	loadExistingGrant: async ({ oidc }) => {
		const grant = new oidc.provider.Grant({ clientId: oidc.client?.clientId ?? "", accountId: oidc.session?.accountId ?? "" });
		grant.addOIDCScope("openid email profile");
		await grant.save();
		return grant;
	},
	// The program it tells of sessions that end is on this machine, which its own way of calling refuses.
	fetch: (url, { method, headers, body, signal }: RequestInit = {}) => fetch(url, { method, headers, body, signal } as RequestInit),
	pkce: { required: () => true },
	findAccount: (_, id) => {
		const known = people.get(id);
		return (
			known && {
				accountId: id,
				claims: () => ({ sub: id, name: known.name, email: known.email, email_verified: known.verified !== false, groups: [...known.groups] }),
			}
		);
	},
});

const LOGIN = "/login/";
const page = (title: string, body: string) => `<!doctype html><html lang="en"><title>${title}</title><h1>${title}</h1>${body}</html>`;

/** Asks who somebody is, and believes it. */
async function loginPage(provider: Provider, people: ReadonlyMap<string, Known>, request: IncomingMessage, response: ServerResponse): Promise<void> {
	const { uid } = await provider.interactionDetails(request, response);
	if (request.method !== "POST") {
		const fields = '<p><label>Login <input name="login" required></label></p><p><label>Password <input name="password" type="password"></label></p>';
		response.writeHead(200, { "content-type": "text/html; charset=utf-8" });
		response.end(page("A company’s sign-in to try with", `<form method="post" action="${LOGIN}${uid}">${fields}<button>Sign in</button></form>`));
		return;
	}
	const parts: Buffer[] = [];
	for await (const part of request) parts.push(part as Buffer);
	const accountId = new URLSearchParams(Buffer.concat(parts).toString("utf8")).get("login") ?? "";
	if (!people.has(accountId)) {
		response.writeHead(403, { "content-type": "text/html; charset=utf-8" }).end(page("Nobody here has this login", ""));
		return;
	}
	await provider.interactionFinished(request, response, { login: { accountId } });
}
