"use client";
import { useState } from "react";
import { Alert, Button, Form, ProgressBar } from "react-bootstrap";
import { instantWords } from "@/ui/format";
import type { ImportJson } from "../server/importBundle";
import { BundleFiles } from "./BundleFiles";
import { ImportReport } from "./ImportReport";
import { TakeOutImport } from "./TakeOutImport";
import { useImport } from "./useImport";

/** Import with its report, and export. An import that runs is followed, also after a reload. */
export function ImportPanel({ past, newest, zone }: { past: readonly ImportJson[]; newest: string | null; zone: string }) {
	const [file, setFile] = useState<File | null>(null);
	const { report, running, sending, error, away, send: sendFile, look } = useImport(past);
	const send = async (options: { dryRun: boolean; skipBad: boolean }) => file && sendFile(file, options);
	return (
		<div className="setup-two">
			<section className="panel">
				<h2>Import a bundle</h2>
				<p className="second">
					A zip of CSV files: people, accounts, stages, deals with their versions, and more. Everything is checked first; then all of it is imported, or
					nothing.
				</p>
				<Form
					onSubmit={(event) => {
						event.preventDefault();
						void send({ dryRun: false, skipBad: false });
					}}
				>
					<Form.Group controlId="bundle" className="mb-3">
						<Form.Label>Zip file</Form.Label>
						<Form.Control
							type="file"
							accept=".zip,application/zip"
							onChange={(event) => {
								setFile((event.target as HTMLInputElement).files?.[0] ?? null);
								look(null);
							}}
						/>
					</Form.Group>
					<div className="d-flex gap-2">
						<Button type="submit" disabled={!file || sending || running}>
							Import
						</Button>
						<Button variant="outline-primary" disabled={!file || sending || running} onClick={() => void send({ dryRun: true, skipBad: false })}>
							Check only
						</Button>
					</div>
				</Form>
				<Progress sending={sending} error={error} away={away} running={running ? report : null} />
				{report && !running && (
					<ImportReport report={report} onSkipBad={file && report.state === "refused" ? () => void send({ dryRun: false, skipBad: true }) : undefined} />
				)}
				{report?.state === "done" && report.id === newest && <TakeOutImport key={report.id} id={report.id} />}
			</section>
			<ExportAndPast past={past} zone={zone} onLook={look} />
			<BundleFiles />
		</div>
	);
}

interface ProgressProps {
	readonly sending: boolean;
	readonly error: string | null;
	/** the server isn’t reached just now */
	readonly away: boolean;
	/** the import under way */
	readonly running: ImportJson | null;
}

/** How far an import has come. */
function Progress({ sending, error, away, running }: ProgressProps) {
	return (
		<>
			{sending && (
				<p className="mt-3 mb-0" role="status">
					Sending the file …
				</p>
			)}
			{error && (
				<Alert variant="danger" className="mt-3" role="alert">
					{error}
				</Alert>
			)}
			{away && (
				<p className="mt-3 mb-0 second" role="status">
					Couldn’t reach the server. The import continues there; this page keeps checking.
				</p>
			)}
			{running && (
				<div className="mt-3" role="status">
					<p className="mb-1">{running.step || "Working"} …</p>
					<ProgressBar
						now={running.progress.total ? running.progress.done : 1}
						max={running.progress.total || 1}
						animated
						striped={!running.progress.total}
						aria-label="Progress of the import"
					/>
				</div>
			)}
		</>
	);
}

function ExportAndPast({ past, zone, onLook }: { past: readonly ImportJson[]; zone: string; onLook: (id: string) => void }) {
	return (
		<section className="panel">
			<h2>Export</h2>
			<p className="second">
				Exports everything as one bundle: imported data and all later work, including rounds, calls, rests, boards, plans, kits, views and unknown columns. Not
				included: sessions and secrets (passwords, links, one-time codes, API keys, calendar addresses, webhook secrets) and this installation’s logs (audit,
				mails, news, imports).
			</p>
			<a className="btn btn-outline-primary" href="/api/v1/export" download>
				Export bundle
			</a>
			<h2 className="mt-4">Past imports</h2>
			{past.length === 0 && <p className="second mb-0">None yet.</p>}
			<ul className="rows small-text">
				{past.map((one) => (
					<li key={one.id}>
						<button type="button" className="plain-button" onClick={() => onLook(one.id)}>
							{one.name}
							{one.dryRun && " (check only)"}
						</button>
						<span className="second text-nowrap">
							{instantWords(one.startedAt, zone)} · {one.state}
						</span>
					</li>
				))}
			</ul>
		</section>
	);
}
