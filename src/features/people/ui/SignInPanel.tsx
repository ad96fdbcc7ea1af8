"use client";
import { useState } from "react";
import { Alert, Button, Form } from "react-bootstrap";
import { instantWords } from "@/ui/format";
import { type Result, useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { OwnSession, OwnSignIn } from "../server/ownSignIn";
import { browserWords } from "./browserWords";
import { PasskeysPanel } from "./PasskeysPanel";

/** How one signs in oneself: the password, one-time codes, passkeys, and where one is signed in. */
export function SignInPanel({ view, zone }: { view: OwnSignIn; zone: string }) {
	return (
		<div className="setup-two">
			<PasswordForm mine={view.sessions.find((session) => session.mine)?.id ?? null} />
			<div className="d-grid gap-3 align-content-start">
				<Codes on={view.codes} />
				<PasskeysPanel passkeys={view.passkeys} passkeysAt={view.passkeysAt} zone={zone} />
			</div>
			<Sessions sessions={view.sessions} zone={zone} />
		</div>
	);
}

function PasswordForm({ mine }: { mine: string | null }) {
	const [present, setPresent] = useState("");
	const [next, setNext] = useState("");
	const [again, setAgain] = useState("");
	const [error, setError] = useState<string | null>(null);
	const run = useRun();
	const act = useAct();
	const differs = again !== "" && again !== next;
	const change = async () => {
		const done = await run("people.changePassword", { present, next, sessionId: mine });
		setError(done.ok ? null : done.detail);
		if (!done.ok) return;
		await act(Promise.resolve(done), "Your password is changed; you are signed out everywhere else.");
		setPresent("");
		setNext("");
		setAgain("");
	};
	return (
		<section className="panel">
			<h2>Password</h2>
			<Form
				onSubmit={(event) => {
					event.preventDefault();
					void change();
				}}
			>
				{error && (
					<Alert variant="danger" role="alert">
						{error}
					</Alert>
				)}
				<Form.Group controlId="present-password" className="mb-2">
					<Form.Label>Current password</Form.Label>
					<Form.Control type="password" autoComplete="current-password" value={present} required onChange={(event) => setPresent(event.target.value)} />
				</Form.Group>
				<Form.Group controlId="next-password" className="mb-2">
					<Form.Label>New password (at least 10 characters)</Form.Label>
					<Form.Control type="password" autoComplete="new-password" minLength={10} value={next} required onChange={(event) => setNext(event.target.value)} />
				</Form.Group>
				<Form.Group controlId="again-password" className="mb-3">
					<Form.Label>Repeat the new password</Form.Label>
					<Form.Control
						type="password"
						autoComplete="new-password"
						value={again}
						required
						isInvalid={differs}
						onChange={(event) => setAgain(event.target.value)}
					/>
					{differs && <Form.Text className="worse">The two passwords differ.</Form.Text>}
				</Form.Group>
				<Button type="submit" disabled={!present || !next || again !== next}>
					Change password
				</Button>
			</Form>
		</section>
	);
}

type Offer = Result<"people.offerCodes">;

function Codes({ on }: { on: boolean }) {
	// Long: one page, its parts in their order.
	const [offer, setOffer] = useState<Offer | null>(null);
	const [code, setCode] = useState("");
	const [password, setPassword] = useState("");
	const [error, setError] = useState<string | null>(null);
	const run = useRun();
	const act = useAct();
	const begin = async () => {
		const answer = await run("people.offerCodes", {});
		if (answer.ok) setOffer(answer.result);
		setError(answer.ok ? null : answer.detail);
	};
	const finish = async () => {
		const done = offer ? await run("people.switchCodesOn", { sealed: offer.sealed, code, password }) : await run("people.switchCodesOff", { password });
		setError(done.ok ? null : done.detail);
		if (!done.ok) return;
		await act(Promise.resolve(done), offer ? "One-time codes are asked for from now on." : "One-time codes are no longer asked for.");
		setOffer(null);
		setCode("");
		setPassword("");
	};
	return (
		<section className="panel">
			<h2>One-time codes</h2>
			<p className="second">
				{on
					? "Signing in asks for the code from your authenticator."
					: "An authenticator on your phone shows a six-digit code that is asked for in addition to the password (RFC 6238)."}
			</p>
			{error && (
				<Alert variant="danger" role="alert">
					{error}
				</Alert>
			)}
			{!on && !offer && (
				<Button variant="outline-primary" onClick={() => void begin()}>
					Turn on …
				</Button>
			)}
			{(on || offer) && (
				<Form
					onSubmit={(event) => {
						event.preventDefault();
						void finish();
					}}
				>
					{offer && (
						<>
							{/* biome-ignore lint/performance/noImgElement: a drawing of a few hundred bytes that is never stored */}
							<img className="code-picture" alt="QR code of the secret for an authenticator" src={`data:image/svg+xml,${encodeURIComponent(offer.picture)}`} />
							<p className="small-text">
								Scan this with your authenticator, or enter the secret: <code className="user-select-all">{offer.text}</code>
							</p>
							<Form.Group controlId="first-code" className="mb-2">
								<Form.Label>Current code</Form.Label>
								<Form.Control inputMode="numeric" autoComplete="one-time-code" value={code} required onChange={(event) => setCode(event.target.value)} />
							</Form.Group>
						</>
					)}
					<Form.Group controlId="codes-password" className="mb-3">
						<Form.Label>Your password</Form.Label>
						<Form.Control type="password" autoComplete="current-password" value={password} required onChange={(event) => setPassword(event.target.value)} />
					</Form.Group>
					<Button type="submit">{offer ? "Turn codes on" : "Turn codes off"}</Button>
				</Form>
			)}
		</section>
	);
}

function Sessions({ sessions, zone }: { sessions: readonly OwnSession[]; zone: string }) {
	const run = useRun();
	const act = useAct();
	const mine = sessions.find((session) => session.mine)?.id ?? null;
	const end = (id: string | null) =>
		act(run("people.endSession", { id, except: mine }), id === null ? "You are signed out everywhere else." : "Session ended.");
	return (
		<section className="panel setup-wide" aria-label="Active sessions">
			<h2>Active sessions</h2>
			<ul className="rows small-text">
				{sessions.map((session) => (
					<li key={session.id}>
						<span>
							<b>{browserWords(session.agent)}</b> <span className="second">from {session.source || "an unknown address"}</span>
						</span>
						<span className="second text-nowrap">
							{session.mine ? "this session" : `last used ${instantWords(session.lastSeenAt, zone)}`}{" "}
							{!session.mine && (
								<Button size="sm" variant="link" className="p-0 align-baseline" onClick={() => void end(session.id)}>
									End session
								</Button>
							)}
						</span>
					</li>
				))}
			</ul>
			{sessions.length > 1 && (
				<Button size="sm" variant="outline-primary" onClick={() => void end(null)}>
					Sign out everywhere else
				</Button>
			)}
		</section>
	);
}
