"use client";
import { useActionState } from "react";
import { Alert, Button, Form } from "react-bootstrap";
import { Lamp } from "@/ui/parts/Lamp";
import "./signIn.css";

interface State {
	readonly email: string;
	readonly error: string | null;
}

export function SignInForm({ action, to }: { action: (state: State, form: FormData) => Promise<State>; to: string }) {
	const [state, submit, waiting] = useActionState(action, { email: "", error: null });
	return (
		<main className="sign-in">
			<div className="sign-in-box">
				<h1 className="sign-in-name">
					<Lamp level="act" size={34} /> Porch Lamp
				</h1>
				<p className="second">Which open deals need a light left on, and why.</p>
				<Form action={submit}>
					<input type="hidden" name="to" value={to} />
					{state.error && (
						<Alert variant="danger" role="alert">
							{state.error}
						</Alert>
					)}
					<Form.Group controlId="email" className="mb-2 mt-3">
						<Form.Label>E-mail address</Form.Label>
						<Form.Control key={state.email} name="email" type="email" autoComplete="username" defaultValue={state.email} required autoFocus />
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
			</div>
		</main>
	);
}
