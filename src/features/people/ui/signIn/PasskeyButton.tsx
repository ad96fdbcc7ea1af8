"use client";
import { browserSupportsWebAuthn, type PublicKeyCredentialRequestOptionsJSON, startAuthentication } from "@simplewebauthn/browser";
import { useEffect, useState } from "react";
import { Alert, Button } from "react-bootstrap";
import { whyNoPasskey } from "./whyNoPasskey";

/** What the page may ask the server for: a challenge, and to be let in for its answer. */
export interface PasskeyDoor {
	readonly ask: () => Promise<{ readonly options: PublicKeyCredentialRequestOptionsJSON; readonly sealed: string } | { readonly error: string }>;
	readonly enter: (given: { sealed: string; response: object; to: string }) => Promise<{ readonly to: string } | { readonly error: string }>;
	/** where a page has to come from for passkeys to be used */
	readonly origin: string;
}

/** Signs in by what a device keeps. From a page that comes from another address of this program it leads to the right one. */
export function PasskeyButton({ ask, enter, origin, to }: PasskeyDoor & { readonly to: string }) {
	const [here, setHere] = useState<"unknown" | "here" | "elsewhere" | "never">("unknown");
	const [error, setError] = useState<string | null>(null);
	const [waiting, setWaiting] = useState(false);
	useEffect(() => {
		if (window.location.origin !== origin) setHere("elsewhere");
		else setHere(browserSupportsWebAuthn() ? "here" : "never");
	}, [origin]);
	if (here === "never" || here === "unknown") return null;
	if (here === "elsewhere")
		return (
			<a className="btn btn-outline-primary w-100 mt-2" href={`${origin}/sign-in?to=${encodeURIComponent(to)}`}>
				Sign in with a passkey at {new URL(origin).host}
			</a>
		);
	const signIn = async () => {
		setWaiting(true);
		setError(null);
		try {
			const asked = await ask();
			if ("error" in asked) return setError(asked.error);
			const answered = await enter({ sealed: asked.sealed, response: await startAuthentication({ optionsJSON: asked.options }), to });
			if ("error" in answered) setError(answered.error);
			else window.location.assign(answered.to);
		} catch (thrown) {
			setError(whyNoPasskey(thrown, "You aren’t signed in"));
		} finally {
			setWaiting(false);
		}
	};
	return (
		<>
			<Button variant="outline-primary" className="w-100 mt-2" disabled={waiting} onClick={() => void signIn()}>
				{waiting ? "Waiting for your device …" : "Sign in with a passkey"}
			</Button>
			{error && (
				<Alert variant="danger" role="alert" className="mt-3 mb-0">
					{error}
				</Alert>
			)}
		</>
	);
}
