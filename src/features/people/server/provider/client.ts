import * as oidc from "openid-client";
import { Fault } from "@/platform/fault";
import { insideAllowed, namesInside } from "@/platform/http/outside";
import { unseal } from "@/platform/sealedText";
import type { Provider } from "./settings";

/** clocks may differ by so many seconds */
export const SKEW = 120;
const HOUR = 3_600_000;
const WAIT = 10;

let known: { readonly key: string; readonly until: number; readonly found: oidc.Configuration } | null = null;

/**
 * What the provider says of itself (OpenID Connect Discovery), kept for an hour.
 *
 * @throws Fault 503 where it can’t be reached
 */
export async function discovered(provider: Provider): Promise<oidc.Configuration> {
	const key = [provider.issuer, provider.clientId, provider.clientSecret].join(" ");
	if (known?.key === key && known.until > Date.now()) return known.found;
	const issuer = new URL(provider.issuer);
	if (namesInside(issuer) && !insideAllowed(issuer)) throw new Fault(503, "Company sign-in", "Addresses inside our own network aren’t allowed.");
	const secret = provider.clientSecret === null ? undefined : (unseal(provider.clientSecret) ?? undefined);
	try {
		const found = await oidc.discovery(
			issuer,
			provider.clientId,
			{ [oidc.clockTolerance]: SKEW, ...(secret ? { client_secret: secret } : {}) },
			secret ? oidc.ClientSecretBasic(secret) : oidc.None(),
			{ timeout: WAIT, ...(issuer.protocol === "http:" && namesInside(issuer) ? { execute: [oidc.allowInsecureRequests] } : {}) },
		);
		known = { key, until: Date.now() + HOUR, found };
		return found;
	} catch (error) {
		throw new Fault(503, "Company sign-in", `The company’s sign-in can’t be reached: ${(error as Error).message}`);
	}
}
