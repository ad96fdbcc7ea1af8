import {
	type AuthenticationResponseJSON,
	generateAuthenticationOptions,
	type VerifiedAuthenticationResponse,
	verifyAuthenticationResponse,
} from "@simplewebauthn/server";
import { and, eq } from "drizzle-orm";
import { z } from "zod";
import { connection } from "@/data/db";
import { passkeys } from "@/data/schema";
import { Fault } from "@/platform/fault";
import { systemWrite } from "@/platform/write";
import { passwordsFor } from "../provider/settings";
import { countTry, demandHere, forgetTry, type Origin, openSession, spendOnce } from "../signIn";
import { challengeIn, type Party, party, sealChallenge } from "./party";

export const enterSchema = z.object({
	sealed: z.string().max(2000),
	response: z.object({ id: z.string().min(1).max(2000), response: z.object({ userHandle: z.string().max(200).optional() }).passthrough() }).passthrough(),
});

/** Where a page has to come from for passkeys to be used; null where nobody has one. */
export async function passkeysHere(): Promise<string | null> {
	const here = party();
	if (!here) return null;
	const [any] = await connection().db.select({ id: passkeys.id }).from(passkeys).limit(1);
	return any ? here.origin : null;
}

/** What a device is asked to sign in with; whose passkey it is, it says itself. */
export async function askForPasskey() {
	const here = demandParty();
	const options = await generateAuthenticationOptions({ rpID: here.id, userVerification: "required" });
	return { options, sealed: sealChallenge("sign in", options.challenge, null) };
}

/**
 * Opens a session for who shows a passkey. It stands for password and code; where passwords are off, passkeys are too, so that
 * who is ended at the company’s sign-in has no other door. Each challenge opens once.
 *
 * @throws Fault 401, the same for all who fail, or 429 after too many tries
 */
export async function enterByPasskey({ sealed, response }: z.infer<typeof enterSchema>, origin: Origin): Promise<{ token: string; expires: Date }> {
	const here = demandParty();
	const key = `${response.id} ${origin.source}`;
	await countTry(key, origin.source);
	const challenge = challengeIn(sealed, "sign in", null);
	if (!challenge) throw new Fault(401, "Not signed in", "That took too long. Try again.");
	const [passkey] = await connection().db.select().from(passkeys).where(eq(passkeys.id, response.id));
	const counter = passkey && (await counterOf(passkey, response as unknown as AuthenticationResponseJSON, challenge, here));
	if (!passkey || counter === null || counter === undefined || !(await passwordsFor(passkey.personId)).may) {
		await systemWrite(async () => ({
			result: null,
			touched: "nothing",
			audit: { action: "sign-in failed", subject: passkey?.personId ?? null, detail: { by: "passkey", source: origin.source } },
		}));
		throw new Fault(401, "Not signed in", "This passkey isn’t known here, was removed, or can’t be used now. Sign in another way.");
	}
	await demandHere(passkey.personId);
	await spendOnce(challenge);
	await forgetTry(key, origin.source);
	return openSession(passkey.personId, origin, "passkey", async (tx) => {
		const used = await tx
			.update(passkeys)
			.set({ counter, lastUsedAt: new Date() })
			.where(and(eq(passkeys.id, passkey.id), eq(passkeys.counter, passkey.counter)))
			.returning({ id: passkeys.id });
		if (!used.length) throw new Fault(401, "Not signed in", "This passkey was used or removed at the same moment. Try again.");
		return {};
	});
}

/** The count that a device’s answer says, where the answer is right: signed by this passkey, for this page and this challenge, by its own person. */
async function counterOf(passkey: typeof passkeys.$inferSelect, response: AuthenticationResponseJSON, challenge: string, here: Party): Promise<number | null> {
	// Nobody was named before, so the device has to say whose it is (Web Authentication, 7.2).
	if (response.response.userHandle !== passkey.handle) return null;
	const { verified, authenticationInfo }: Pick<VerifiedAuthenticationResponse, "verified"> & Partial<VerifiedAuthenticationResponse> =
		await verifyAuthenticationResponse({
			response,
			expectedChallenge: challenge,
			expectedOrigin: here.origin,
			expectedRPID: here.id,
			credential: { id: passkey.id, publicKey: new Uint8Array(Buffer.from(passkey.publicKey, "base64url")), counter: passkey.counter },
		}).catch(() => ({ verified: false }));
	return verified && authenticationInfo ? authenticationInfo.newCounter : null;
}

function demandParty(): Party {
	const here = party();
	if (!here) throw new Fault(401, "Not signed in", "There are no passkeys at an address of numbers. Sign in another way.");
	return here;
}
