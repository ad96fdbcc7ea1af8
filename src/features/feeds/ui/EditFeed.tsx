"use client";
import { useState } from "react";
import { Form } from "react-bootstrap";
import { FormDialog } from "@/ui/parts/FormDialog";
import { type Input, useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { FeedsView, FeedView } from "../server/readFeeds";

type Draft = Required<Omit<Input<"feeds.save">, "header">>;

const DAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];
const MONDAY = { days: [1], at: "08:00" };

const draftOf = (feed: FeedView | null): Draft => ({
	id: feed?.id ?? null,
	name: feed?.name ?? "",
	kind: feed?.kind ?? "weekly",
	covers: feed?.covers ?? "",
	tell: feed?.tell.map(({ id }) => id) ?? [],
	senders: [...(feed?.senders ?? [])],
	due: feed?.due ? { days: [...feed.due.days], at: feed.due.at } : null,
	on: feed?.on ?? true,
	url: feed?.url ?? null,
	rule: feed?.rule ?? null,
});

/** What a feed brings, from whom, by when, and who is told. */
export function EditFeed({ feed, view, close }: { feed: FeedView | null; view: FeedsView; close: () => void }) {
	// Long: one form, its fields in their order.
	const [draft, setDraft] = useState<Draft>(draftOf(feed));
	const [senders, setSenders] = useState(draft.senders.join(", "));
	const [header, setHeader] = useState<string | null>(null);
	const run = useRun();
	const act = useAct();
	const set = (change: Partial<Draft>) => setDraft({ ...draft, ...change });
	const due = draft.due;
	const save = async () => {
		const named = senders
			.split(/[\s,;]+/)
			.map((one) => one.trim())
			.filter(Boolean);
		if (
			await act(
				run("feeds.save", { ...draft, senders: named, ...(header === null ? {} : { header: header.trim() || null }) }),
				feed ? "Saved." : `${draft.name} added.`,
			)
		)
			close();
	};
	return (
		<FormDialog
			title={feed ? `Edit ${feed.name}` : "Add feed"}
			label={feed ? "Save" : "Add"}
			onSave={() => void save()}
			onClose={close}
			not={!draft.name.trim() || (due !== null && !due.days.length)}
			bodyClass="d-grid gap-3"
		>
			<Form.Group controlId="feed-name">
				<Form.Label>Name</Form.Label>
				<Form.Control value={draft.name} maxLength={60} placeholder="Monday report" onChange={({ target }) => set({ name: target.value })} />
			</Form.Group>
			<Form.Group controlId="feed-kind">
				<Form.Label>What comes</Form.Label>
				<Form.Select value={draft.kind} onChange={({ target }) => set({ kind: target.value as Draft["kind"] })}>
					<option value="weekly">Weekly files: one row per open deal (CSV, XLSX, or a zip of one)</option>
					<option value="bundle">Bundles: zips of all tables</option>
				</Form.Select>
			</Form.Group>
			{draft.kind === "weekly" && (
				<Form.Group controlId="feed-covers">
					<Form.Label>Part of the pipeline</Form.Label>
					<Form.Control
						value={draft.covers}
						maxLength={100}
						list="feed-parts"
						placeholder="all of it"
						onChange={({ target }) => set({ covers: target.value })}
					/>
					<datalist id="feed-parts">
						{view.parts.map((part) => (
							<option key={part} value={part} />
						))}
					</datalist>
					<Form.Text>Columns are read as in the last file of this part.</Form.Text>
				</Form.Group>
			)}
			<Form.Group controlId="feed-senders">
				<Form.Label>Who may send it by mail</Form.Label>
				<Form.Control value={senders} placeholder="reports@company.example, @company.example" onChange={({ target }) => setSenders(target.value)} />
				<Form.Text>They get the report of what came of each file. Without anyone, no mail is taken.</Form.Text>
			</Form.Group>
			<FetchFields draft={draft} set={set} hasHeader={feed?.hasHeader ?? false} header={header} setHeader={setHeader} />
			<Due due={due} set={(next) => set({ due: next })} />
			<fieldset>
				<legend className="fs-6">Who is told</legend>
				<div className="feed-people">
					{view.people.map(({ id, name }) => (
						<Form.Check
							key={id}
							id={`feed-tell-${id}`}
							label={name}
							checked={draft.tell.includes(id)}
							onChange={({ target }) => set({ tell: target.checked ? [...draft.tell, id] : draft.tell.filter((one) => one !== id) })}
						/>
					))}
				</div>
				<Form.Text>Of every file that waits, is refused or doesn’t come; of what was imported in their digest.</Form.Text>
			</fieldset>
			<Form.Check id="feed-on" type="switch" label="Switched on" checked={draft.on} onChange={({ target }) => set({ on: target.checked })} />
		</FormDialog>
	);
}

/** By when a file has to have come. */
function Due({ due, set }: { due: Draft["due"]; set: (next: Draft["due"]) => void }) {
	return (
		<fieldset>
			<legend className="fs-6">Due</legend>
			<Form.Check
				id="feed-due"
				label="Tell us when no file has come by its hour"
				checked={due !== null}
				onChange={({ target }) => set(target.checked ? MONDAY : null)}
			/>
			{due && (
				<div className="feed-days mt-2">
					{DAYS.map((label, i) => (
						<Form.Check
							key={label}
							id={`feed-day-${i + 1}`}
							label={label}
							checked={due.days.includes(i + 1)}
							onChange={({ target }) => set({ ...due, days: (target.checked ? [...due.days, i + 1] : due.days.filter((day) => day !== i + 1)).sort() })}
						/>
					))}
					<Form.Control
						size="sm"
						type="time"
						aria-label="By this time"
						className="w-auto"
						value={due.at}
						onChange={({ target }) => set({ ...due, at: target.value })}
					/>
				</div>
			)}
		</fieldset>
	);
}

const RULES = [
	{ rule: "FREQ=HOURLY;BYMINUTE=0", label: "every hour" },
	{ rule: "FREQ=DAILY;BYHOUR=6;BYMINUTE=0", label: "every day at 06:00" },
	{ rule: "FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR;BYHOUR=6;BYMINUTE=0", label: "Monday to Friday at 06:00" },
	{ rule: "FREQ=WEEKLY;BYDAY=MO;BYHOUR=6;BYMINUTE=0", label: "Mondays at 06:00" },
] as const;

interface FetchProps {
	readonly draft: Pick<Draft, "url" | "rule">;
	readonly set: (change: Partial<Draft>) => void;
	readonly hasHeader: boolean;
	/** null: left as it is */
	readonly header: string | null;
	readonly setHeader: (header: string) => void;
}

/** The address a feed is fetched at, when, and with which header. */
function FetchFields({ draft: { url, rule }, set, hasHeader, header, setHeader }: FetchProps) {
	const usual = RULES.some((one) => one.rule === rule);
	const fetched = (next: string) => set({ url: next.trim() || null, rule: next.trim() ? (rule ?? RULES[1].rule) : null });
	return (
		<>
			<Form.Group controlId="feed-url">
				<Form.Label>Address it is fetched at</Form.Label>
				<Form.Control value={url ?? ""} placeholder="none" onChange={({ target }) => fetched(target.value)} />
			</Form.Group>
			{url !== null && (
				<>
					<Form.Group controlId="feed-rule">
						<Form.Label>When</Form.Label>
						<Form.Select
							value={usual ? (rule ?? "") : "own"}
							onChange={({ target }) => set({ rule: target.value === "own" ? "FREQ=DAILY;BYHOUR=7;BYMINUTE=30" : target.value })}
						>
							{RULES.map((one) => (
								<option key={one.rule} value={one.rule}>
									{one.label}
								</option>
							))}
							<option value="own">by a rule of your own (RFC 5545)</option>
						</Form.Select>
						{!usual && <Form.Control className="mt-2" aria-label="Rule" value={rule ?? ""} onChange={({ target }) => set({ rule: target.value })} />}
					</Form.Group>
					<Form.Group controlId="feed-header">
						<Form.Label>Header</Form.Label>
						<Form.Control
							value={header ?? ""}
							autoComplete="off"
							placeholder={hasHeader ? "one is kept; type to replace it" : "Authorization: Bearer …"}
							onChange={({ target }) => setHeader(target.value)}
						/>
						<Form.Text>It is kept sealed, and never shown again.</Form.Text>
					</Form.Group>
				</>
			)}
		</>
	);
}
