"use client";
import { useEffect, useState } from "react";
import { Alert, Button, Form } from "react-bootstrap";
import { Lamp } from "@/ui/parts/Lamp";
import "./signIn.css";

/** Sets the password that the address's link stands for. What follows the # is sent with the form only, and is in no log. */
export function SetPasswordForm({ action }: { action: (given: { token: string; password: string }) => Promise<{ error: string | null }> }) {
	// Long: one form, its fields in their order.
	const [token, setToken] = useState<string | null>(null);
	const [password, setPassword] = useState("");
	const [state, setState] = useState<"open" | "waiting" | "done">("open");
	const [error, setError] = useState<string | null>(null);
	useEffect(() => setToken(location.hash.slice(1)), []);
	const send = async () => {
		setState("waiting");
		try {
			const done = await action({ token: token ?? "", password });
			setError(done.error);
			setState(done.error ? "open" : "done");
		} catch {
			setError("Couldn’t send: the connection or the server may be down. Try again.");
			setState("open");
		}
	};
	return (
		<main className="sign-in">
			<div className="sign-in-box">
				<h1 className="sign-in-name">
					<Lamp level="act" size={34} /> Porch Lamp
				</h1>
				{state === "done" ? (
					<>
						<p role="status">Your password is set.</p>
						<Button href="/sign-in" className="w-100">
							Sign in
						</Button>
					</>
				) : token === "" ? (
					<p className="mb-0">This link is incomplete. Open the whole link as it was sent to you, or ask for a new one.</p>
				) : (
					<Form
						onSubmit={(event) => {
							event.preventDefault();
							void send();
						}}
					>
						<p className="second">Choose the password you will sign in with.</p>
						{error && (
							<Alert variant="danger" role="alert">
								{error}
							</Alert>
						)}
						<Form.Group controlId="new-password" className="mb-3">
							<Form.Label>New password</Form.Label>
							<Form.Control
								type="password"
								autoComplete="new-password"
								required
								value={password}
								onChange={(event) => setPassword(event.target.value)}
								autoFocus
							/>
							<Form.Text>At least ten letters; a few words that don’t belong together are best.</Form.Text>
						</Form.Group>
						<Button type="submit" disabled={state === "waiting" || token === null} className="w-100">
							{state === "waiting" ? "Saving …" : "Set password"}
						</Button>
					</Form>
				)}
			</div>
		</main>
	);
}
