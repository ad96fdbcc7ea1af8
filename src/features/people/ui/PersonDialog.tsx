"use client";
import { useState } from "react";
import { Alert, Button, Form } from "react-bootstrap";
import { byCount } from "@/core/words/grammar";
import { DayField } from "@/ui/parts/DayField";
import { FormDialog } from "@/ui/parts/FormDialog";
import { PasswordLinks } from "@/ui/parts/PasswordLinks";
import { type Input, type Result, useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { PeopleView } from "../server/readPeople";

type Person = PeopleView["without"][number];
type Wish = Input<"people.save">;

const ROLES: readonly { readonly role: Wish["role"]; readonly label: string }[] = [
	{ role: "rep", label: "Rep: their own deals" },
	{ role: "manager", label: "Manager: the deals of the team and the teams below" },
	{ role: "viewer", label: "Viewer: looks at the team’s deals" },
	{ role: "ops", label: "Ops: rules, files and people" },
];

interface Props {
	/** null: somebody new */
	readonly person: Person | null;
	readonly everybody: readonly Person[];
	readonly teams: readonly string[];
	readonly signsIn: boolean;
	readonly onClose: () => void;
}

const wishOf = (person: Person | null): Wish => ({
	id: person?.id ?? null,
	name: person?.name ?? "",
	email: person?.email ?? null,
	role: person?.role ?? "rep",
	team: person?.team ?? null,
	activeFrom: person?.from ?? null,
	activeTo: person?.until ?? null,
});

/** Makes a person or changes one: what they are, when they work here, how they come in, and who else they are. */
export function PersonDialog({ person, everybody, teams, signsIn, onClose }: Props) {
	const [wish, setWish] = useState<Wish>(() => wishOf(person));
	const [error, setError] = useState<string | null>(null);
	const run = useRun();
	const act = useAct();
	const set = (part: Partial<Wish>) => setWish({ ...wish, ...part });
	const save = async () => {
		const sent = { ...wish, email: wish.email?.trim() || null };
		const done = await run("people.save", sent);
		if (!done.ok) return setError(done.detail);
		const { openDeals } = done.result;
		const words = openDeals
			? `Saved. ${openDeals} open ${byCount(openDeals, "deal is", "deals are")} still theirs: give them to someone else in Deals.`
			: person
				? "Saved."
				: `${sent.name} is here.`;
		void act(Promise.resolve(done), words, person ? () => run("people.save", wishOf(person)) : undefined);
		onClose();
	};
	return (
		<FormDialog title={person ? person.name : "New person"} error={error} label={person ? "Save" : "Add"} onSave={() => void save()} onClose={onClose}>
			<Fields wish={wish} teams={teams} set={set} />
			{person && <WayIn person={person} signsIn={signsIn} />}
			{person && <SamePerson person={person} everybody={everybody} onMerged={onClose} />}
		</FormDialog>
	);
}

function Fields({ wish, teams, set }: { wish: Wish; teams: readonly string[]; set: (part: Partial<Wish>) => void }) {
	return (
		<div className="company-fields">
			<Form.Group controlId="person-name">
				<Form.Label>Name</Form.Label>
				<Form.Control required autoFocus value={wish.name} maxLength={200} onChange={(event) => set({ name: event.target.value })} />
			</Form.Group>
			<Form.Group controlId="person-email">
				<Form.Label>E-mail address</Form.Label>
				<Form.Control type="email" value={wish.email ?? ""} onChange={(event) => set({ email: event.target.value })} />
			</Form.Group>
			<Form.Group controlId="person-role">
				<Form.Label>Role</Form.Label>
				<Form.Select value={wish.role} onChange={(event) => set({ role: event.target.value as Wish["role"] })}>
					{ROLES.map(({ role, label }) => (
						<option key={role} value={role}>
							{label}
						</option>
					))}
				</Form.Select>
			</Form.Group>
			<Form.Group controlId="person-team">
				<Form.Label>Team</Form.Label>
				<Form.Select value={wish.team ?? ""} onChange={(event) => set({ team: event.target.value || null })}>
					<option value="">no team</option>
					{teams.map((team) => (
						<option key={team}>{team}</option>
					))}
				</Form.Select>
				{!wish.team && (wish.role === "manager" || wish.role === "viewer") && <Form.Text>Without a team a {wish.role} sees only their own deals.</Form.Text>}
			</Form.Group>
			<Form.Group controlId="person-from">
				<Form.Label>With the company from</Form.Label>
				<DayField value={wish.activeFrom ?? ""} onDay={(day) => set({ activeFrom: day || null })} />
			</Form.Group>
			<Form.Group controlId="person-to">
				<Form.Label>until</Form.Label>
				<DayField value={wish.activeTo ?? ""} onDay={(day) => set({ activeTo: day || null })} />
				<Form.Text>After this day they can’t sign in.</Form.Text>
			</Form.Group>
		</div>
	);
}

/** Whether somebody can sign in, and a link by which they set a password. */
function WayIn({ person, signsIn }: { person: Person; signsIn: boolean }) {
	const [path, setPath] = useState<string | null>(null);
	const [error, setError] = useState<string | null>(null);
	const run = useRun();
	const make = async () => {
		const made = await run("people.passwordLink", { id: person.id });
		setError(made.ok ? null : made.detail);
		setPath(made.ok ? made.result.path : null);
	};
	return (
		<section className="person-part">
			<h3>Signing in</h3>
			{path ? (
				<PasswordLinks links={[{ name: person.name, path }]} />
			) : (
				<p className="mb-0">
					{signsIn ? "They have a password. " : "They have no password yet, so they can’t sign in. "}
					<Button variant="link" className="p-0 align-baseline" onClick={() => void make()}>
						{signsIn ? "Create a link to reset it" : "Create a link to set one"}
					</Button>
				</p>
			)}
			{error && (
				<Alert variant="danger" className="mt-2 mb-0" role="alert">
					{error}
				</Alert>
			)}
		</section>
	);
}

/** Says that two entries are one person, after a look at what moves. */
function SamePerson({ person, everybody, onMerged }: { person: Person; everybody: readonly Person[]; onMerged: () => void }) {
	const [into, setInto] = useState("");
	const [preview, setPreview] = useState<Result<"people.previewMerge"> | null>(null);
	const [error, setError] = useState<string | null>(null);
	const run = useRun();
	const act = useAct();
	const look = async (id: string) => {
		setInto(id);
		setPreview(null);
		setError(null);
		if (!id) return;
		const seen = await run("people.previewMerge", { from: person.id, into: id });
		if (seen.ok) setPreview(seen.result);
		else setError(seen.detail);
	};
	const merge = async () => {
		const done = await run("people.merge", { from: person.id, into });
		if (!done.ok) return setError(done.detail);
		void act(Promise.resolve(done), `${person.name} is now ${preview?.stays}.`);
		onMerged();
	};
	return (
		<section className="person-part">
			<Form.Group controlId="person-same">
				<Form.Label>Merge into</Form.Label>
				<Form.Select value={into} onChange={(event) => void look(event.target.value)}>
					<option value="">no one</option>
					{everybody
						.filter(({ id }) => id !== person.id)
						.map((other) => (
							<option key={other.id} value={other.id}>
								{[other.name, other.email, other.team].filter(Boolean).join(", ")}
							</option>
						))}
				</Form.Select>
			</Form.Group>
			{error && (
				<Alert variant="danger" className="mt-2 mb-0" role="alert">
					{error}
				</Alert>
			)}
			{preview && (
				<div className="mt-2">
					<p className="mb-2">
						{preview.parts.length ? `${preview.parts.join(", ")} of ${preview.gone} become ${preview.stays}’s` : `Nothing is ${preview.gone}’s`}; {preview.gone}{" "}
						becomes another name of {preview.stays} that files may use. This can’t be undone.
					</p>
					<Button variant="outline-primary" size="sm" onClick={() => void merge()}>
						Merge people
					</Button>
				</div>
			)}
		</section>
	);
}
