import { and, eq, inArray, isNotNull, or } from "drizzle-orm";
import { createRemoteJWKSet, jwtVerify } from "jose";
import { people, sessions } from "@/data/schema";
import { Fault } from "@/platform/fault";
import { systemWrite } from "@/platform/write";
import { discovered, SKEW } from "./client";
import { providerOn } from "./settings";

/** The event that a logout token tells of (OpenID Connect Back-Channel Logout 1.0, 2.4). */
const EVENT = "http://schemas.openid.net/event/backchannel-logout";
const OLDEST = 600;

/**
 * Ends what the company’s sign-in says has ended there: a session of it, or all sessions of somebody that it opened. Gives how many.
 *
 * @throws Fault 400 for a token that isn’t the provider’s, is old, or tells of something else
 */
export async function endByProvider(token: string): Promise<number> {
	const provider = await providerOn();
	if (!provider) throw new Fault(400, "Not taken", "There is no company sign-in.");
	const client = await discovered(provider);
	const { issuer, jwks_uri } = client.serverMetadata();
	const read = await jwtVerify(token, createRemoteJWKSet(new URL(jwks_uri ?? issuer)), {
		issuer,
		audience: provider.clientId,
		clockTolerance: SKEW,
		maxTokenAge: OLDEST,
	}).catch(() => null);
	const said = read?.payload;
	const events = said?.events as Record<string, unknown> | undefined;
	if (!said || typeof events?.[EVENT] !== "object" || said.nonce !== undefined || (!said.sub && !said.sid))
		throw new Fault(400, "Not taken", "This isn’t a logout token of the company’s sign-in.");
	const { sid, sub } = said;
	return systemWrite(async (tx) => {
		const whose = sub
			? await tx
					.select({ id: people.id })
					.from(people)
					.where(eq(people.subject, `${provider.issuer} ${sub}`))
			: [];
		const theirs = and(
			inArray(
				sessions.personId,
				whose.map(({ id }) => id),
			),
			isNotNull(sessions.idToken),
		);
		const gone = await tx
			.delete(sessions)
			.where(typeof sid === "string" ? eq(sessions.providerSid, sid) : or(theirs))
			.returning({ person: sessions.personId });
		const audit = gone.map(({ person }) => ({ action: "sessions ended", subject: person, detail: { count: 1, by: "company sign-in" } }));
		return { result: gone.length, touched: "nothing", audit };
	});
}
