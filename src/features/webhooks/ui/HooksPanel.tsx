"use client";
import { useState } from "react";
import { Alert, Button, Form } from "react-bootstrap";
import { instantWords } from "@/ui/format";
import { DataTable } from "@/ui/parts/table/DataTable";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { HooksView } from "../server/hooks";

const EVENTS = [
	{ key: "task.given", label: "a task is given" },
	{ key: "task.changed", label: "a task changes: done, dropped, moved, handed over or back" },
] as const;
type Event = (typeof EVENTS)[number]["key"];

/** The addresses that are called, and what they answered. */
export function HooksPanel({ view, zone, receiver }: { view: HooksView; zone: string; receiver: { readonly address: string; readonly shown: string } | null }) {
	// Long: one page, its parts in their order.
	const [url, setUrl] = useState("");
	const [events, setEvents] = useState<readonly Event[]>(EVENTS.map(({ key }) => key));
	const [secret, setSecret] = useState<string | null>(null);
	const run = useRun();
	const act = useAct();
	const make = async () => {
		const made = await act(run("webhooks.make", { url, events: [...events] }), "Webhook created.");
		if (!made) return;
		setSecret(made.result.secret);
		setUrl("");
	};
	return (
		<section className="panel">
			<p className="second">
				An address gets a POST with JSON for each event. <code>Porch-Lamp-Signature</code> is <code>sha256=</code> and the HMAC-SHA256, under the secret, of{" "}
				<code>Porch-Lamp-Timestamp</code>, a point and the body. Calls not answered with 2xx are retried, at growing intervals, for about half a day.
				{receiver && (
					<>
						{" "}
						To try it, use <code>{receiver.address}</code>: <a href={receiver.shown}>received calls</a> are kept there until the program stops.
					</>
				)}
			</p>
			{secret && (
				<Alert variant="success">
					The secret, shown this once: <code>{secret}</code>
				</Alert>
			)}
			<Form
				className="d-grid gap-2 mb-3"
				onSubmit={(event) => {
					event.preventDefault();
					void make();
				}}
			>
				<Form.Control
					size="sm"
					type="url"
					aria-label="Address"
					placeholder="https://…"
					required
					maxLength={500}
					value={url}
					onChange={(event) => setUrl(event.target.value)}
				/>
				{EVENTS.map(({ key, label }) => (
					<Form.Check
						key={key}
						id={`event-${key}`}
						label={`when ${label}`}
						checked={events.includes(key)}
						onChange={({ target }) => setEvents(target.checked ? [...events, key] : events.filter((one) => one !== key))}
					/>
				))}
				<span>
					<Button size="sm" type="submit" disabled={!url || !events.length}>
						Create webhook
					</Button>
				</span>
			</Form>
			{view.hooks.length > 0 && <Hooks view={view} />}
			<Calls view={view} zone={zone} />
		</section>
	);
}

/** The addresses, each switched or deleted. */
function Hooks({ view }: { view: HooksView }) {
	const run = useRun();
	const act = useAct();
	return (
		<ul className="rows mb-3">
			{view.hooks.map((hook) => (
				<li key={hook.id}>
					<span>
						<b className="text-break">{hook.url}</b>
						<span className="d-block tiny second">
							{hook.events.join(", ")}
							{hook.on ? "" : " · switched off"}
						</span>
					</span>
					<span className="text-nowrap">
						<Button
							size="sm"
							variant="link"
							onClick={() =>
								void act(run("webhooks.switch", { id: hook.id, on: !hook.on }), hook.on ? "Switched off." : "Switched on.", () =>
									run("webhooks.switch", { id: hook.id, on: hook.on }),
								)
							}
						>
							{hook.on ? "Switch off" : "Switch on"}
						</Button>
						<Button size="sm" variant="link" onClick={() => void act(run("webhooks.remove", { id: hook.id }), "Webhook and its log deleted.")}>
							Delete
						</Button>
					</span>
				</li>
			))}
		</ul>
	);
}

/** What was called last, and what it answered. */
function Calls({ view, zone }: { view: HooksView; zone: string }) {
	const run = useRun();
	const act = useAct();
	return (
		<DataTable
			of="Calls"
			className=""
			tableClass=""
			rows={view.calls}
			rowKey={({ id }) => String(id)}
			empty={null}
			columns={[
				{ key: "at", label: "At", className: "text-nowrap", by: ({ at }) => at, cell: ({ at }) => instantWords(at, zone) },
				{ key: "event", label: "Event", by: ({ event }) => event, cell: ({ event }) => event },
				{ key: "url", label: "Address", className: "text-break", by: (call) => call.url, cell: (call) => call.url },
				{
					key: "state",
					label: "State",
					by: ({ state }) => state,
					cell: ({ state, status, tries, answer }) => (
						<>
							{state === "given up" ? "not delivered after half a day" : state === "taken" ? "delivered" : state}
							{status !== null && <span className="second"> {status}</span>}
							{tries > 1 && <span className="second small-text"> after {tries} tries</span>}
							{state !== "taken" && answer && <span className="d-block tiny worse text-break">{answer.slice(0, 200)}</span>}
						</>
					),
				},
				{
					key: "again",
					label: "Again",
					silent: true,
					num: true,
					cell: ({ id, event }) => (
						<Button
							size="sm"
							variant="link"
							aria-label={`Call again: ${event} ${id}`}
							onClick={() => void act(run("webhooks.again", { ids: [id] }), "It will be called again within a minute.")}
						>
							Call again
						</Button>
					),
				},
			]}
		/>
	);
}
