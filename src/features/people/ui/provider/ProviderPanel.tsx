"use client";
import { useState } from "react";
import { Alert, Button, Form } from "react-bootstrap";
import type { Input } from "@/ui/run";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { ProviderView } from "../../server/provider/settings";
import { GroupLines } from "./GroupLines";
import "../people.css";
import { TryGroups } from "./TryGroups";

type Wish = Required<Omit<Input<"people.saveProvider">, "clientSecret">>;
const EMPTY: Wish = { on: true, name: "", issuer: "", clientId: "", claim: "groups", groups: [], passwords: true, emergencyId: null };

/** The company’s own sign-in: where it is, who of it is let in as what, and whether passwords are taken beside it. */
export function ProviderPanel({ view, teams }: { view: ProviderView; teams: readonly string[] }) {
	// Long: one form, a field after the other.
	const { set } = view;
	const [wish, setWish] = useState<Wish>(set ? { ...pick(set) } : EMPTY);
	const [secret, setSecret] = useState("");
	const [error, setError] = useState<string | null>(null);
	const run = useRun();
	const act = useAct();
	const change = (part: Partial<Wish>) => setWish((before) => ({ ...before, ...part }));
	const save = async () => {
		const done = await run("people.saveProvider", { ...wish, ...(secret ? { clientSecret: secret } : {}) });
		setError(done.ok ? null : done.detail);
		if (!done.ok) return;
		setSecret("");
		await act(Promise.resolve(done), "The company sign-in is saved.");
	};
	return (
		<section className="panel">
			<h2>Company sign-in</h2>
			<p className="second">
				People sign in by the company’s own provider of OpenID Connect. Register this program there with the address <code>/sign-in/provider/back</code> to
				return to, <code>/sign-in</code> after signing out, and <code>/sign-in/provider/ended</code> to be told of sessions that end (back-channel logout).
			</p>
			<Form
				onSubmit={(event) => {
					event.preventDefault();
					void save();
				}}
			>
				<div className="provider-fields">
					<Field id="provider-name" label="Name, as people call it" value={wish.name} onChange={(name) => change({ name })} />
					<Field id="provider-issuer" label="Issuer’s address" type="url" value={wish.issuer} onChange={(issuer) => change({ issuer })} />
					<Field id="provider-client" label="Client id" value={wish.clientId} onChange={(clientId) => change({ clientId })} />
					<Field
						id="provider-secret"
						label={set?.hasSecret ? "Client secret (set; empty leaves it)" : "Client secret"}
						type="password"
						value={secret}
						onChange={setSecret}
						optional
					/>
					<Field id="provider-claim" label="Claim that names groups" value={wish.claim} onChange={(claim) => change({ claim })} />
				</div>
				<GroupLines groups={wish.groups} teams={teams} onChange={(groups) => change({ groups })} />
				<TryGroups groups={wish.groups} />
				<Form.Check
					className="mt-3"
					id="provider-on"
					type="switch"
					label="People may sign in by it"
					checked={wish.on}
					onChange={(event) => change({ on: event.target.checked })}
				/>
				<Form.Check
					id="provider-passwords"
					type="switch"
					label="Passwords are taken beside it"
					checked={wish.passwords}
					onChange={(event) => change({ passwords: event.target.checked })}
				/>
				{!wish.passwords && (
					<Form.Group controlId="provider-emergency" className="mt-2">
						<Form.Label>Emergency person, who keeps their password</Form.Label>
						<Form.Select value={wish.emergencyId ?? ""} onChange={(event) => change({ emergencyId: event.target.value || null })}>
							<option value="">Choose</option>
							{view.withPassword.map(({ id, name }) => (
								<option key={id} value={id}>
									{name}
								</option>
							))}
						</Form.Select>
					</Form.Group>
				)}
				{error && (
					<Alert variant="danger" className="mt-3 mb-0" role="alert">
						{error}
					</Alert>
				)}
				<Button type="submit" className="mt-3">
					Save
				</Button>
			</Form>
		</section>
	);
}

const pick = ({ on, name, issuer, clientId, claim, groups, passwords, emergencyId }: NonNullable<ProviderView["set"]>): Wish => ({
	on,
	name,
	issuer,
	clientId,
	claim,
	groups: groups as Wish["groups"],
	passwords,
	emergencyId,
});

interface FieldProps {
	readonly id: string;
	readonly label: string;
	readonly value: string;
	readonly type?: string;
	readonly optional?: boolean;
	readonly onChange: (value: string) => void;
}

function Field({ id, label, value, type = "text", optional = false, onChange }: FieldProps) {
	return (
		<Form.Group controlId={id}>
			<Form.Label>{label}</Form.Label>
			<Form.Control type={type} value={value} required={!optional} autoComplete="off" onChange={(event) => onChange(event.target.value)} />
		</Form.Group>
	);
}
