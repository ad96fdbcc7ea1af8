"use client";
import { useState } from "react";
import { Alert, Button, Form } from "react-bootstrap";
import type { Area } from "@/platform/areas";
import { instantDay } from "@/ui/format";
import { DataTable } from "@/ui/parts/table/DataTable";
import { type Input, useRun } from "@/ui/run";
import { useRefresh } from "@/ui/useAct";

export interface KeyRow {
	readonly id: string;
	readonly name: string;
	readonly hint: string;
	readonly person: string;
	readonly createdAt: string;
	readonly lastUsedAt: string | null;
	readonly write: boolean;
	readonly areas: readonly string[];
	readonly expiresAt: string | null;
}

/** Areas that a key can be kept to. */
const AREAS = ["deals", "changes", "tasks", "tables", "import"] as const satisfies readonly Area[];

/** Keys act as the person who made them. A key is shown once; only its beginning is kept to tell it by. */
export function KeysPanel({ keys, zone }: { keys: readonly KeyRow[]; zone: string }) {
	const [token, setToken] = useState<string | null>(null);
	const [error, setError] = useState<string | null>(null);
	const [sure, setSure] = useState<string | null>(null);
	const run = useRun();
	const refresh = useRefresh();
	const make = async (wish: Input<"people.createKey">) => {
		const made = await run("people.createKey", wish);
		setError(made.ok ? null : made.detail);
		setToken(made.ok ? made.result.token : null);
		refresh();
		return made.ok;
	};
	const revoke = async (id: string) => {
		if (sure !== id) return setSure(id);
		const done = await run("people.revokeKey", { id });
		setError(done.ok ? null : done.detail);
		setSure(null);
		refresh();
	};
	return (
		<section className="panel">
			<h2>API keys</h2>
			<p className="second">
				A program that sends a key in <code>Authorization: Bearer …</code> acts as you, with your rights. Its calls are listed at{" "}
				<a href="/api/v1/openapi.json">/api/v1/openapi.json</a>.
			</p>
			<NewKey onMake={make} />
			{error && (
				<Alert variant="danger" className="mb-3" role="alert">
					{error}
				</Alert>
			)}
			{token && (
				<Alert variant="success" className="mb-3" role="status">
					Copy it now; it is shown only once: <code className="d-block mt-1 user-select-all key-token">{token}</code>
				</Alert>
			)}
			<Keys keys={keys} zone={zone} sure={sure} onRevoke={(id) => void revoke(id)} />
		</section>
	);
}

/** What a new key is for, and how far it reaches. */
function NewKey({ onMake }: { onMake: (wish: Input<"people.createKey">) => Promise<boolean> }) {
	const [name, setName] = useState("");
	const [write, setWrite] = useState(false);
	const [area, setArea] = useState<(typeof AREAS)[number] | "">("");
	const [days, setDays] = useState(90);
	const make = async () => {
		if (await onMake({ name, write, areas: area ? [area] : [], days })) setName("");
	};
	return (
		<Form
			className="d-flex gap-2 align-items-end mb-3 flex-wrap"
			onSubmit={(event) => {
				event.preventDefault();
				void make();
			}}
		>
			<Form.Group controlId="key-name">
				<Form.Label>Purpose</Form.Label>
				<Form.Control value={name} maxLength={100} required onChange={(event) => setName(event.target.value)} />
			</Form.Group>
			<Form.Group controlId="key-write">
				<Form.Label>Access</Form.Label>
				<Form.Select value={write ? "write" : "read"} onChange={(event) => setWrite(event.target.value === "write")}>
					<option value="read">only read</option>
					<option value="write">read and write</option>
				</Form.Select>
			</Form.Group>
			<Form.Group controlId="key-area">
				<Form.Label>Areas</Form.Label>
				<Form.Select value={area} onChange={(event) => setArea(AREAS.find((one) => one === event.target.value) ?? "")}>
					<option value="">everything</option>
					{AREAS.map((one) => (
						<option key={one} value={one}>
							{one}
						</option>
					))}
				</Form.Select>
			</Form.Group>
			<Form.Group controlId="key-days">
				<Form.Label>For</Form.Label>
				<Form.Select value={days} onChange={(event) => setDays(Number(event.target.value))}>
					<option value={7}>a week</option>
					<option value={90}>90 days</option>
					<option value={365}>a year</option>
					<option value={730}>two years</option>
				</Form.Select>
			</Form.Group>
			<Button type="submit" disabled={!name.trim()}>
				Create key
			</Button>
		</Form>
	);
}

interface KeysProps {
	readonly keys: readonly KeyRow[];
	readonly zone: string;
	/** the key that is revoked by the next press */
	readonly sure: string | null;
	readonly onRevoke: (id: string) => void;
}

function Keys({ keys, zone, sure, onRevoke }: KeysProps) {
	const dayOf = (at: string | null) => (at ? instantDay(at, zone) : "never");
	return (
		<DataTable
			of="Keys"
			className=""
			tableClass=""
			rows={keys}
			rowKey={({ id }) => id}
			empty={<p className="second mb-0">No keys yet.</p>}
			columns={[
				{ key: "for", label: "For", by: (key) => key.name, cell: (key) => key.name },
				{ key: "person", label: "Acts as", by: ({ person }) => person, cell: ({ person }) => person },
				{ key: "hint", label: "Starts with", cell: ({ hint }) => <code>{hint}…</code> },
				{
					key: "access",
					label: "Access",
					cell: (key) => (
						<>
							{key.write ? "read and write" : "only read"}
							{key.areas.length > 0 && <span className="second"> in {key.areas.join(", ")}</span>}
						</>
					),
				},
				{ key: "created", label: "Created", className: "text-nowrap", by: (key) => key.createdAt, cell: (key) => dayOf(key.createdAt) },
				{ key: "expires", label: "Expires", className: "text-nowrap", by: (key) => key.expiresAt, cell: (key) => dayOf(key.expiresAt) },
				{ key: "used", label: "Last used", className: "text-nowrap", by: (key) => key.lastUsedAt, cell: (key) => dayOf(key.lastUsedAt) },
				{
					key: "revoke",
					label: "Revoke",
					silent: true,
					num: true,
					cell: (key) => (
						<Button size="sm" variant="link" aria-label={`Revoke ${key.name}`} onClick={() => onRevoke(key.id)}>
							{sure === key.id ? "Confirm: revoke key" : "Revoke"}
						</Button>
					),
				},
			]}
		/>
	);
}
