"use client";
import { useActionState } from "react";
import { Alert, Button, Form } from "react-bootstrap";
import { Lamp } from "@/ui/parts/Lamp";
import { PasskeyButton, type PasskeyDoor } from "./PasskeyButton";
import "./signIn.css";

interface State {
	readonly email: string;
	readonly error: string | null;
}

interface Props {
	readonly action: (state: State, form: FormData) => Promise<State>;
	readonly to: string;
	/** the company’s own sign-in, and whether the fields for a password are shown beside it */
	readonly provider: { readonly name: string; readonly passwords: boolean } | null;
	/** where anybody here has a passkey */
	readonly passkeys: PasskeyDoor | null;
	/** why somebody who came back from it isn’t signed in */
	readonly why: string | null;
}

export function SignInForm({ action, to, provider, passkeys, why }: Props) {
	return (
		<main className="sign-in">
			<div className="sign-in-box">
				<h1 className="sign-in-name">
					<Lamp level="act" size={34} /> Porch Lamp
				</h1>
				<p className="second">Which open deals need a light left on, and why.</p>
				{why && (
					<Alert variant="danger" role="alert" className="mt-3">
						{why}
					</Alert>
				)}
				{provider && (
					<a className="btn btn-primary w-100 mt-3" href={`/sign-in/provider?to=${encodeURIComponent(to)}`}>
						Sign in with {provider.name}
					</a>
				)}
				{provider?.passwords && <p className="second mt-3 mb-0">or with a password</p>}
				{(!provider || provider.passwords) && <Password action={action} to={to} first={!provider} />}
				{passkeys && (!provider || provider.passwords) && <PasskeyButton {...passkeys} to={to} />}
				{provider && !provider.passwords && (
					<p className="mt-3 mb-0">
						<a href="/sign-in?password">Emergency sign-in</a>
					</p>
				)}
			</div>
		</main>
	);
}

function Password({ action, to, first }: Pick<Props, "action" | "to"> & { first: boolean }) {
	const [state, submit, waiting] = useActionState(action, { email: "", error: null });
	return (
		<Form action={submit}>
			<input type="hidden" name="to" value={to} />
			{state.error && (
				<Alert variant="danger" role="alert" className="mt-3">
					{state.error}
				</Alert>
			)}
			<Form.Group controlId="email" className="mb-2 mt-3">
				<Form.Label>E-mail address</Form.Label>
				<Form.Control key={state.email} name="email" type="email" autoComplete="username" defaultValue={state.email} required autoFocus={first} />
			</Form.Group>
			<Form.Group controlId="password" className="mb-3">
				<Form.Label>Password</Form.Label>
				<Form.Control name="password" type="password" autoComplete="current-password" required />
			</Form.Group>
			<Form.Group controlId="code" className="mb-3">
				<Form.Label>
					One-time code <span className="second">if you turned it on</span>
				</Form.Label>
				<Form.Control name="code" inputMode="numeric" autoComplete="one-time-code" maxLength={20} />
			</Form.Group>
			<Button type="submit" disabled={waiting} className="w-100">
				{waiting ? "Signing in …" : "Sign in"}
			</Button>
		</Form>
	);
}
