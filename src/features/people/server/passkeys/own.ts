import { generateRegistrationOptions, type RegistrationResponseJSON, verifyRegistrationResponse } from "@simplewebauthn/server";
import { and, asc, eq } from "drizzle-orm";
import { z } from "zod";
import { connection } from "@/data/db";
import { passkeys } from "@/data/schema";
import { command, lookup } from "@/platform/command";
import { Fault, notFound } from "@/platform/fault";
import { pseudonym } from "@/platform/sealedText";
import { demandPassword, demandSelf } from "../ownPassword";
import { passwordInput } from "../passwords";
import { challengeIn, type Party, party, sealChallenge } from "./party";

export interface OwnPasskey {
	readonly id: string;
	readonly name: string;
	readonly createdAt: string;
	readonly lastUsedAt: string | null;
}

/** so many one person may have */
const MOST = 20;

const of = (personId: string) => connection().db.select().from(passkeys).where(eq(passkeys.personId, personId)).orderBy(asc(passkeys.createdAt));

/** Somebody’s passkeys, the oldest first. */
export const passkeysOf = async (personId: string): Promise<readonly OwnPasskey[]> =>
	(await of(personId)).map(({ id, name, createdAt, lastUsedAt }) => ({
		id,
		name,
		createdAt: createdAt.toISOString(),
		lastUsedAt: lastUsedAt?.toISOString() ?? null,
	}));

function demandParty(): Party {
	const here = party();
	if (!here) throw new Fault(422, "No passkeys here", "Passkeys are tied to a name, and this program’s address is numbers (PORCH_LAMP_ADDRESS).");
	return here;
}

/**
 * What a device is asked for a new passkey, and what seals it; nothing is stored by it. The password is said before a device makes
 * anything: what it had made for nothing would stay there, and be offered when signing in.
 */
export const offerPasskey = lookup({
	name: "people.offerPasskey",
	right: "ownSignIn",
	input: z.object({ password: passwordInput }),
	async run({ context, input: { password } }) {
		demandSelf(context);
		await demandPassword(connection().db, context.actor.person.id, password);
		const { id, name, email } = context.actor.person;
		const there = await of(id);
		if (there.length >= MOST) throw new Fault(422, "Too many passkeys", `One person may have ${MOST} passkeys; remove one first.`);
		const options = await generateRegistrationOptions({
			rpName: "Porch Lamp",
			rpID: demandParty().id,
			userName: email ?? name,
			userDisplayName: name,
			userID: new Uint8Array(there[0] ? Buffer.from(there[0].handle, "base64url") : pseudonym(`passkeys of ${id}`)),
			attestationType: "none",
			excludeCredentials: there.map((one) => ({ id: one.id, transports: one.transports as never })),
			// It stands for password and code together: it is found without a name, and opened by a finger, a face or a PIN.
			authenticatorSelection: { residentKey: "required", userVerification: "required" },
		});
		return { options, sealed: sealChallenge("add", `${options.challenge} ${options.user.id}`, id) };
	},
});

/** Adds a passkey that a device made for what `people.offerPasskey` asked: that it was asked says that the password was known. */
export const addPasskey = command({
	name: "people.addPasskey",
	right: "ownSignIn",
	input: z.object({
		sealed: z.string().max(2000),
		response: z.object({ id: z.string().min(1).max(2000), response: z.record(z.string(), z.unknown()) }).passthrough(),
		name: z.string().trim().min(1, "Give it a name.").max(100),
	}),
	async run({ context, input: { sealed, response, name }, tx }) {
		demandSelf(context);
		const me = context.actor.person.id;
		const [challenge = "", handle = ""] = challengeIn(sealed, "add", me)?.split(" ") ?? [];
		if (!challenge) throw new Fault(422, "Not added", "That took too long, or was asked for by another person. Nothing was added; try again.");
		const { id: expectedRPID, origin: expectedOrigin } = demandParty();
		const found = await verifyRegistrationResponse({
			response: response as unknown as RegistrationResponseJSON,
			expectedChallenge: challenge,
			expectedOrigin,
			expectedRPID,
		}).catch(() => null);
		if (!found?.verified) throw new Fault(422, "Not added", `Your device’s answer isn’t for ${expectedOrigin}, or isn’t whole. Nothing was added.`);
		const { credential } = found.registrationInfo;
		const added = await tx
			.insert(passkeys)
			.values({
				id: credential.id,
				personId: me,
				handle,
				name,
				publicKey: Buffer.from(credential.publicKey).toString("base64url"),
				counter: credential.counter,
				transports: credential.transports ?? [],
			})
			.onConflictDoNothing()
			.returning({ id: passkeys.id });
		if (!added.length) throw new Fault(409, "Known already", "This passkey is here already; nothing was added.");
		return { result: { id: credential.id }, touched: "nothing", audit: { action: "passkey added", subject: me, detail: { name } } };
	},
});

/** Removes a passkey of one’s own: it opens nothing from then on. */
export const removePasskey = command({
	name: "people.removePasskey",
	right: "ownSignIn",
	input: z.object({ id: z.string().max(2000) }),
	async run({ context, input: { id }, tx }) {
		demandSelf(context);
		const me = context.actor.person.id;
		const [gone] = await tx
			.delete(passkeys)
			.where(and(eq(passkeys.id, id), eq(passkeys.personId, me)))
			.returning({ name: passkeys.name });
		if (!gone) throw notFound("passkey of yours", id);
		return { result: {}, touched: "nothing", audit: { action: "passkey removed", subject: me, detail: { name: gone.name } } };
	},
});
