"use client";
import { useEffect, useState } from "react";
import { Alert, Button, Form } from "react-bootstrap";
import { byCount } from "@/core/words/grammar";
import { type CompanyDraft, CompanyFields, holidaysOf } from "@/ui/parts/CompanyFields";
import { Lamp } from "@/ui/parts/Lamp";
import { PasswordLinks } from "@/ui/parts/PasswordLinks";
import type { Beginning, HasBegun } from "../server/firstStart";
import "./begin.css";

type Begun = { readonly error: string } | HasBegun;

interface Props {
	/** null: somebody is set up, perhaps just now by this very page */
	readonly way: "code" | "demo" | null;
	readonly action: (given: Beginning) => Promise<Begun>;
	readonly zones: readonly string[];
	readonly currencies: readonly string[];
}

const ROLES = { rep: "Rep: their own deals", manager: "Manager: the team’s deals", viewer: "Viewer: reads only", ops: "Ops: rules, files and people" } as const;
interface Other {
	readonly key: number;
	readonly name: string;
	readonly email: string;
	readonly role: keyof typeof ROLES;
	readonly team: string;
}

/** The one page a new installation begins with. */
export function BeginForm({ way, action, zones, currencies }: Props) {
	const [company, setCompany] = useState<CompanyDraft>({
		name: "",
		baseCurrency: "EUR",
		timeZone: "Europe/Berlin",
		fiscalStartMonth: 1,
		fiscalWeeks: null,
		fiscalBefore: [],
		weekend: [6, 0],
		holidays: "",
	});
	const [first, setFirst] = useState({ name: "", email: "", password: "" });
	const [others, setOthers] = useState<readonly Other[]>([]);
	useEffect(() => {
		const { timeZone } = Intl.DateTimeFormat().resolvedOptions();
		if (zones.includes(timeZone)) setCompany((before) => ({ ...before, timeZone }));
	}, [zones]);
	const { begun, error, waiting, send } = useBegin(action, company, first, others);
	if (begun) return <Begun name={company.name} begun={begun} />;
	if (way === null) return <BegunAlready />;
	return (
		<main className="begin">
			<h1 className="sign-in-name">
				<Lamp level="act" size={34} /> Set up Porch Lamp
			</h1>
			<p className="second">
				One page. Everything can be changed later in Setup.
				{way === "demo" && " Setting up deletes the demo company and everything tried on it."}
			</p>
			<Form
				onSubmit={(event) => {
					event.preventDefault();
					void send();
				}}
			>
				<section className="panel mb-3">
					<h2>The company</h2>
					<CompanyFields draft={company} setDraft={setCompany} zones={zones} currencies={currencies} />
				</section>
				<You first={first} set={setFirst} />
				<Others others={others} set={setOthers} />
				{error && (
					<Alert variant="danger" role="alert">
						{error}
					</Alert>
				)}
				<Button type="submit" disabled={waiting}>
					{waiting ? "Setting up …" : "Set up"}
				</Button>
			</Form>
		</main>
	);
}

/** Sends what was typed, with the code that the address holds. */
function useBegin(action: Props["action"], company: CompanyDraft, first: First, others: readonly Other[]) {
	const [code, setCode] = useState("");
	const [error, setError] = useState<string | null>(null);
	const [waiting, setWaiting] = useState(false);
	const [begun, setBegun] = useState<HasBegun | null>(null);
	useEffect(() => setCode(location.hash.slice(1)), []);
	const send = async () => {
		setWaiting(true);
		setError(null);
		const { holidays, ...rest } = company;
		try {
			const done = await action({
				code,
				company: { ...rest, weekend: [...rest.weekend] },
				holidays: holidaysOf(holidays),
				first,
				others: others
					.filter(({ name, email }) => name.trim() || email.trim())
					.map(({ name, email, role, team }) => ({ name, email, role, team: team.trim() || null })),
			});
			if ("error" in done) setError(done.error);
			else setBegun(done);
		} catch {
			setError("Couldn’t send: the connection or the server may be down. What you typed is still here. Try again.");
		}
		setWaiting(false);
	};
	return { begun, error, waiting, send };
}

function BegunAlready() {
	return (
		<main className="begin">
			<h1 className="sign-in-name">
				<Lamp level="act" size={34} /> This company is set up
			</h1>
			<p>Sign in, and change the company in Setup.</p>
			<Button href="/">Continue</Button>
		</main>
	);
}

/** It is set up: the links to send, and what comes next. */
function Begun({ name, begun: { links, ops } }: { name: string; begun: HasBegun }) {
	return (
		<main className="begin">
			<h1 className="sign-in-name">
				<Lamp level="act" size={34} /> {name} is set up
			</h1>
			<section className="panel mb-3">
				<h2>Anyone with the role ops</h2>
				<p className="mb-0">
					{ops.join(", ")}. {byCount(ops.length, "Nobody else can", "Nobody but these can")} change rules, people and files; every earlier session, key and link
					has ended.
				</p>
			</section>
			{links.length > 0 && (
				<section className="panel mb-3">
					<h2>Links to send</h2>
					<PasswordLinks links={links} />
				</section>
			)}
			<section className="panel">
				<h2>Import your first file</h2>
				<p className="second">A file of this week’s open deals is enough to start; earlier weekly files add history.</p>
				<div className="d-flex gap-2 flex-wrap">
					<Button href="/setup?place=weekly">A weekly file of open deals</Button>
					<Button href="/setup?place=bundle" variant="outline-primary">
						A bundle with full history
					</Button>
					<Button href="/setup?place=company" variant="outline-primary">
						The demo company, to explore
					</Button>
				</div>
			</section>
		</main>
	);
}

type First = Beginning["first"];

function You({ first, set }: { first: First; set: (first: First) => void }) {
	return (
		<section className="panel mb-3">
			<h2>You</h2>
			<p className="second small-text">You are the first person with the role ops: you set the rules, import files and manage people.</p>
			<div className="begin-person">
				<Form.Group controlId="first-name">
					<Form.Label>Your name</Form.Label>
					<Form.Control required autoComplete="name" value={first.name} onChange={(event) => set({ ...first, name: event.target.value })} />
				</Form.Group>
				<Form.Group controlId="first-email">
					<Form.Label>E-mail address</Form.Label>
					<Form.Control required type="email" autoComplete="username" value={first.email} onChange={(event) => set({ ...first, email: event.target.value })} />
				</Form.Group>
				<Form.Group controlId="first-password">
					<Form.Label>Password</Form.Label>
					<Form.Control
						required
						type="password"
						autoComplete="new-password"
						value={first.password}
						onChange={(event) => set({ ...first, password: event.target.value })}
					/>
					<Form.Text>Ten letters or more.</Form.Text>
				</Form.Group>
			</div>
		</section>
	);
}

/** Who is to sign in beside the first one. */
function Others({ others, set }: { others: readonly Other[]; set: (others: readonly Other[]) => void }) {
	const other = (key: number, part: Partial<Other>) => set(others.map((one) => (one.key === key ? { ...one, ...part } : one)));
	return (
		<section className="panel mb-3">
			<h2>Others</h2>
			<p className="second small-text">
				Each gets a link to set a password, shown after setup. Reps named in your files are added by themselves; enter those who will sign in here, under the
				same name.
			</p>
			{others.map((one) => (
				<div key={one.key} className="begin-person begin-other">
					<Form.Control aria-label="Name" placeholder="Name" value={one.name} onChange={(event) => other(one.key, { name: event.target.value })} />
					<Form.Control
						aria-label="E-mail address"
						placeholder="E-mail address"
						type="email"
						value={one.email}
						onChange={(event) => other(one.key, { email: event.target.value })}
					/>
					<Form.Select aria-label="Role" value={one.role} onChange={(event) => other(one.key, { role: event.target.value as Other["role"] })}>
						{Object.entries(ROLES).map(([role, words]) => (
							<option key={role} value={role}>
								{words}
							</option>
						))}
					</Form.Select>
					<Form.Control aria-label="Team" placeholder="Team" value={one.team} onChange={(event) => other(one.key, { team: event.target.value })} />
					<Button variant="link" aria-label={`Remove ${one.name || "this person"}`} onClick={() => set(others.filter(({ key }) => key !== one.key))}>
						Remove
					</Button>
				</div>
			))}
			<Button
				variant="outline-primary"
				size="sm"
				onClick={() => set([...others, { key: (others.at(-1)?.key ?? 0) + 1, name: "", email: "", role: "rep", team: others.at(-1)?.team ?? "" }])}
			>
				Add person
			</Button>
		</section>
	);
}
