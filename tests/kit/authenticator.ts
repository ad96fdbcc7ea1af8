import { createHash, generateKeyPairSync, randomBytes, sign } from "node:crypto";
import { isoCBOR } from "@simplewebauthn/server/helpers";

const sha = (data: string | Buffer) => createHash("sha256").update(data).digest();
const url = (data: Uint8Array | string) => Buffer.from(data).toString("base64url");
/** present, verified; with the new key’s own data */
const [PRESENT, VERIFIED, WITH_KEY] = [0x01, 0x04, 0x40];

interface How {
	readonly origin: string;
	readonly rpId: string;
	/** was a finger, a face or a PIN shown */
	readonly verified?: boolean;
	readonly handle?: string;
}

/** A device as Web Authentication describes it, with one key of ES256, for tests below the browser. */
export function authenticator() {
	const { privateKey, publicKey } = generateKeyPairSync("ec", { namedCurve: "P-256" });
	const { x = "", y = "" } = publicKey.export({ format: "jwk" });
	const id = randomBytes(16);
	const named = { id: url(id), rawId: url(id), type: "public-key" as const, clientExtensionResults: {} };
	let count = 0;
	let kept = "";

	const client = (type: string, challenge: string, origin: string) => Buffer.from(JSON.stringify({ type, challenge, origin, crossOrigin: false }));
	function data(rpId: string, flags: number, more: Buffer = Buffer.alloc(0)): Buffer {
		const counter = Buffer.alloc(4);
		counter.writeUInt32BE(count);
		return Buffer.concat([sha(rpId), Buffer.from([flags]), counter, more]);
	}
	return {
		id: url(id),
		/** Sets the count of its uses, as a copy of the device has it. */
		setCount: (to: number) => {
			count = to;
		},
		/** Makes its key for somebody, with no attestation. */
		make({ challenge, user }: { challenge: string; user: { id: string } }, { origin, rpId }: How) {
			kept = user.id;
			const key = new Map<number, number | Uint8Array>([
				[1, 2],
				[3, -7],
				[-1, 1],
				[-2, new Uint8Array(Buffer.from(x, "base64url"))],
				[-3, new Uint8Array(Buffer.from(y, "base64url"))],
			]);
			const length = Buffer.alloc(2);
			length.writeUInt16BE(id.length);
			const own = Buffer.concat([Buffer.alloc(16), length, id, Buffer.from(isoCBOR.encode(key as never))]);
			const attestation = new Map<string, unknown>([
				["fmt", "none"],
				["attStmt", new Map()],
				["authData", new Uint8Array(data(rpId, PRESENT | VERIFIED | WITH_KEY, own))],
			]);
			return {
				...named,
				response: {
					clientDataJSON: url(client("webauthn.create", challenge, origin)),
					attestationObject: url(isoCBOR.encode(attestation as never)),
					transports: ["internal"],
				},
			};
		},
		/** Signs in. */
		answer({ challenge }: { challenge: string }, { origin, rpId, verified = true, handle = kept }: How) {
			count++;
			const clientData = client("webauthn.get", challenge, origin);
			const authenticatorData = data(rpId, PRESENT | (verified ? VERIFIED : 0));
			return {
				...named,
				response: {
					clientDataJSON: url(clientData),
					authenticatorData: url(authenticatorData),
					signature: url(sign("sha256", Buffer.concat([authenticatorData, sha(clientData)]), privateKey)),
					userHandle: handle,
				},
			};
		},
	};
}
