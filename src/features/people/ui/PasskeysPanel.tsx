"use client";
import { browserSupportsWebAuthn, startRegistration } from "@simplewebauthn/browser";
import { useEffect, useState } from "react";
import { Alert, Button, Form } from "react-bootstrap";
import { instantWords } from "@/ui/format";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { OwnSignIn } from "../server/ownSignIn";
import { browserWords } from "./browserWords";
import { whyNoPasskey } from "./signIn/whyNoPasskey";

interface Props extends Pick<OwnSignIn, "passkeys" | "passkeysAt"> {
	readonly zone: string;
}

/** What somebody can sign in with instead of password and code: what is there, and one more. */
export function PasskeysPanel({ passkeys, passkeysAt, zone }: Props) {
	const run = useRun();
	const act = useAct();
	return (
		<section className="panel" aria-label="Passkeys">
			<h2>Passkeys</h2>
			<p className="second">
				A passkey signs you in by your fingerprint, your face or the PIN of your device, without password and code
				{passkeysAt ? `. It works at ${new URL(passkeysAt).host}.` : ". There are none here: the program’s address is numbers, and passkeys need a name."}
			</p>
			{passkeys.length > 0 && (
				<ul className="rows small-text mb-3">
					{passkeys.map(({ id, name, createdAt, lastUsedAt }) => (
						<li key={id}>
							<span>
								<b>{name}</b> <span className="second">added {instantWords(createdAt, zone)}</span>
							</span>
							<span className="second text-nowrap">
								{lastUsedAt ? `last used ${instantWords(lastUsedAt, zone)}` : "not used yet"}{" "}
								<Button
									size="sm"
									variant="link"
									className="p-0 align-baseline"
									aria-label={`Remove ${name}`}
									onClick={() => void act(run("people.removePasskey", { id }), `${name} is removed; it signs nobody in any more.`)}
								>
									Remove
								</Button>
							</span>
						</li>
					))}
				</ul>
			)}
			{passkeysAt && <AddPasskey origin={passkeysAt} />}
		</section>
	);
}

function AddPasskey({ origin }: { origin: string }) {
	const [can, setCan] = useState<"unknown" | "here" | "elsewhere" | "never">("unknown");
	const [asking, setAsking] = useState(false);
	useEffect(() => {
		if (window.location.origin !== origin) setCan("elsewhere");
		else setCan(browserSupportsWebAuthn() ? "here" : "never");
	}, [origin]);
	if (can === "elsewhere")
		return (
			<p className="small-text mb-0">
				To add one, open <a href={`${origin}/setup?place=signin`}>{new URL(origin).host}</a>: passkeys are tied to that name.
			</p>
		);
	if (can === "never") return <p className="small-text mb-0">This browser makes none here: passkeys need HTTPS and a browser that knows them.</p>;
	if (asking) return <PasskeyForm onDone={() => setAsking(false)} />;
	return (
		<Button variant="outline-primary" disabled={can === "unknown"} onClick={() => setAsking(true)}>
			Add a passkey …
		</Button>
	);
}

function PasskeyForm({ onDone }: { onDone: () => void }) {
	const [name, setName] = useState(() => browserWords(navigator.userAgent));
	const [password, setPassword] = useState("");
	const { add, error, waiting } = useAdding(onDone);
	return (
		<Form
			onSubmit={(event) => {
				event.preventDefault();
				void add(name, password);
			}}
		>
			{error && (
				<Alert variant="danger" role="alert">
					{error}
				</Alert>
			)}
			<Form.Group controlId="passkey-name" className="mb-2">
				<Form.Label>Name of the device</Form.Label>
				<Form.Control value={name} maxLength={100} required onChange={(event) => setName(event.target.value)} />
			</Form.Group>
			<Form.Group controlId="passkey-password" className="mb-3">
				<Form.Label>Your password</Form.Label>
				<Form.Control type="password" autoComplete="current-password" value={password} required onChange={(event) => setPassword(event.target.value)} />
			</Form.Group>
			<div className="d-flex gap-2">
				<Button type="submit" disabled={waiting}>
					{waiting ? "Waiting for your device …" : "Add passkey"}
				</Button>
				<Button variant="outline-primary" disabled={waiting} onClick={onDone}>
					Cancel
				</Button>
			</div>
		</Form>
	);
}

/** Has a device make a passkey and the server keep it; says why not where it isn’t. */
function useAdding(onDone: () => void) {
	const [error, setError] = useState<string | null>(null);
	const [waiting, setWaiting] = useState(false);
	const run = useRun();
	const act = useAct();
	const add = async (name: string, password: string) => {
		setWaiting(true);
		setError(null);
		try {
			const offer = await run("people.offerPasskey", { password });
			if (!offer.ok) return setError(offer.detail);
			const response = await startRegistration({ optionsJSON: offer.result.options });
			const done = await run("people.addPasskey", { sealed: offer.result.sealed, response: { ...response, response: { ...response.response } }, name });
			if (!done.ok) return setError(done.detail);
			await act(Promise.resolve(done), `${name} signs you in from now on.`);
			onDone();
		} catch (thrown) {
			setError(whyNoPasskey(thrown, "Nothing was added"));
		} finally {
			setWaiting(false);
		}
	};
	return { add, error, waiting };
}
