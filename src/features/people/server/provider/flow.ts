import { eq, sql } from "drizzle-orm";
import * as oidc from "openid-client";
import { z } from "zod";
import { formatDay } from "@/core/time/day";
import { connection, type Tx } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { people, teams } from "@/data/schema";
import { address } from "@/platform/address";
import { clock } from "@/platform/clock";
import { Fault } from "@/platform/fault";
import { safePath } from "@/platform/http/safePath";
import { newId } from "@/platform/ids";
import { seal, unseal } from "@/platform/sealedText";
import { systemWrite } from "@/platform/write";
import { groupsIn, lineFor } from "../../table/groups";
import { demandOps } from "../managePeople";
import { demandHere, type Origin, openSession } from "../signIn";
import { discovered } from "./client";
import { type Provider, providerOn } from "./settings";

/** What a browser keeps between leaving for the provider and coming back, sealed. */
const doorSchema = z.object({ state: z.string(), nonce: z.string(), verifier: z.string(), to: z.string(), at: z.number() });
const DOOR_MS = 600_000;

/** Why somebody doesn’t come in: told on the page of signing in by its name. */
export type Why = "off" | "down" | "late" | "refused" | "unmapped" | "unknown" | "left";
export class NoEntry extends Error {
	constructor(readonly why: Why) {
		super(why);
	}
}

const back = () => address("/sign-in/provider/back");

/** Where to send a browser, and what it keeps until it comes back: code flow with PKCE, state and nonce. */
export async function leaveFor(to: string): Promise<{ readonly url: string; readonly door: string }> {
	const provider = await providerOn();
	if (!provider) throw new NoEntry("off");
	const client = await reached(provider);
	const [state, nonce, verifier] = [oidc.randomState(), oidc.randomNonce(), oidc.randomPKCECodeVerifier()];
	const url = oidc.buildAuthorizationUrl(client, {
		redirect_uri: back(),
		scope: "openid email profile",
		code_challenge: await oidc.calculatePKCECodeChallenge(verifier),
		code_challenge_method: "S256",
		state,
		nonce,
	});
	return { url: url.href, door: seal(JSON.stringify({ state, nonce, verifier, to: safePath(to), at: Date.now() })) };
}

/** Opens a session for who comes back from the provider. */
export async function comeBackFrom(search: string, door: string | undefined, origin: Origin): Promise<{ token: string; expires: Date; to: string }> {
	const provider = await providerOn();
	if (!provider) throw new NoEntry("off");
	const kept = doorSchema.safeParse(readDoor(door));
	if (!kept.success || kept.data.at < Date.now() - DOOR_MS) throw new NoEntry("late");
	const { state, nonce, verifier, to } = kept.data;
	const client = await reached(provider);
	const tokens = await oidc
		.authorizationCodeGrant(client, new URL(`${back()}${search}`), {
			expectedState: state,
			expectedNonce: nonce,
			pkceCodeVerifier: verifier,
			idTokenExpected: true,
		})
		.catch((error: Error) => {
			throw new NoEntry(/fetch failed|timed? ?out|ECONN/i.test(`${error.message} ${error.cause}`) ? "down" : "refused");
		});
	const claims = tokens.claims();
	if (!claims) throw new NoEntry("refused");
	// What the token leaves out is asked for, where the provider tells it.
	const more = client.serverMetadata().userinfo_endpoint ? await oidc.fetchUserInfo(client, tokens.access_token, claims.sub).catch(() => ({})) : {};
	const person = await personFor(provider, { ...more, ...claims });
	try {
		await demandHere(person);
	} catch (error) {
		if (error instanceof Fault) throw new NoEntry("left");
		throw error;
	}
	const opened = { idToken: seal(tokens.id_token ?? ""), providerSid: typeof claims.sid === "string" ? claims.sid : null };
	return { ...(await openSession(person, origin, "company sign-in", async () => opened)), to };
}

/** What was sealed for the way back; null for a text that is none of ours, or was sealed for something else. */
function readDoor(door: string | undefined): unknown {
	try {
		return door ? JSON.parse(unseal(decodeURIComponent(door)) ?? "null") : null;
	} catch {
		return null;
	}
}

async function reached(provider: Provider): Promise<oidc.Configuration> {
	try {
		return await discovered(provider);
	} catch (error) {
		if (error instanceof Fault) throw new NoEntry("down");
		throw error;
	}
}

type Claims = { readonly sub: string } & Readonly<Record<string, unknown>>;

/**
 * Who of ours somebody is: whom the provider’s subject was tied to, else who has the address that it says is theirs. Role and team
 * follow their groups, where groups are set; who isn’t here yet is made then.
 */
async function personFor(provider: Provider, claims: Claims): Promise<string> {
	const subject = `${provider.issuer} ${claims.sub}`;
	const email = typeof claims.email === "string" && claims.email_verified !== false ? claims.email.trim().toLowerCase() : null;
	const line = lineFor(provider.groups, groupsIn(claims, provider.claim));
	if (provider.groups.length && !line) throw new NoEntry("unmapped");
	const organisation = await currentOrganisation(connection().db);
	const today = formatDay(clock(organisation).day);
	return systemWrite(async (tx) => {
		const found = await known(tx, subject, email);
		if (!found && !line) throw new NoEntry("unknown");
		if (!found) {
			const name = typeof claims.name === "string" && claims.name.trim() ? claims.name.trim().slice(0, 200) : (email ?? claims.sub);
			const made = { name, email, role: line?.role ?? "viewer", team: await teamThere(tx, line?.team ?? null), activeFrom: null, activeTo: null };
			const id = newId();
			await tx.insert(people).values({ id, ...made, subject });
			return { result: id, touched: "settings", audit: { action: "person created", subject: id, detail: { after: made, by: "company sign-in" } } };
		}
		const wish = line ? { role: line.role, team: await teamThere(tx, line.team) } : { role: found.role, team: found.team };
		const same = wish.role === found.role && wish.team === found.team;
		if (same && found.subject === subject) return { result: found.id, touched: "nothing", audit: [] };
		await tx
			.update(people)
			.set({ ...wish, subject })
			.where(eq(people.id, found.id));
		if (found.role === "ops" && wish.role !== "ops") await demandOps(tx, today);
		const detail = { before: { role: found.role, team: found.team }, after: wish, by: "company sign-in" };
		return { result: found.id, touched: same ? "nothing" : "settings", audit: { action: same ? "sign-in tied" : "person changed", subject: found.id, detail } };
	}, provider.setById);
}

async function known(tx: Tx, subject: string, email: string | null): Promise<typeof people.$inferSelect | null> {
	const [tied] = await tx.select().from(people).where(eq(people.subject, subject)).for("update");
	if (tied) return tied;
	if (!email) return null;
	const [named] = await tx
		.select()
		.from(people)
		.where(eq(sql`lower(${people.email})`, email))
		.for("update");
	// An address that was given to somebody else there doesn’t open what was its owner’s before.
	return named && named.subject === null ? named : null;
}

/** A team as long as it is there: one that was taken away since leaves its people without. */
async function teamThere(tx: Tx, team: string | null): Promise<string | null> {
	if (team === null) return null;
	const [row] = await tx.select({ name: teams.name }).from(teams).where(eq(teams.name, team));
	return row?.name ?? null;
}

/** Where a browser ends its session at the provider, too; null where that has no such place, or can’t be reached. */
export async function leaveBoth(idToken: string): Promise<string | null> {
	const provider = await providerOn();
	if (!provider) return null;
	const client = await discovered(provider).catch(() => null);
	if (!client?.serverMetadata().end_session_endpoint) return null;
	return oidc.buildEndSessionUrl(client, { id_token_hint: idToken, post_logout_redirect_uri: address("/sign-in") }).href;
}
