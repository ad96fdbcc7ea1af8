"use client";
import { useCallback, useEffect, useRef, useState } from "react";
import { Alert, Button, Form, ProgressBar } from "react-bootstrap";
import { MOST_PACKED, megabytes } from "@/formats/bundle/limits";
import { useRefresh } from "@/ui/useAct";
import type { ImportJson } from "../server/importBundle";
import { BundleFiles } from "./BundleFiles";
import { ImportReport } from "./ImportReport";

const RUNNING = ["reading", "writing"];

/** Import with its report, and export. An import that runs is followed, also after a reload. */
export function ImportPanel({ past }: { past: readonly ImportJson[] }) {
	const refresh = useRefresh();
	const [file, setFile] = useState<File | null>(null);
	const [error, setError] = useState<string | null>(null);
	const [report, setReport] = useState<ImportJson | null>(past.find((one) => RUNNING.includes(one.state)) ?? null);
	const [sending, setSending] = useState(false);
	const picker = useRef<HTMLInputElement>(null);
	const running = report !== null && RUNNING.includes(report.state);

	const follow = useCallback(
		async (id: string) => {
			const answer = await fetch(`/api/v1/imports/${id}`);
			const body = await answer.json();
			if (!answer.ok) return setError(String(body.detail));
			setReport(body as ImportJson);
			if (!RUNNING.includes(body.state)) refresh();
		},
		[refresh],
	);
	useEffect(() => {
		if (!running || !report) return;
		const timer = setTimeout(() => void follow(report.id), 400);
		return () => clearTimeout(timer);
	}, [report, running, follow]);

	const send = async (options: { dryRun: boolean; skipBad: boolean }) => {
		if (!file) return;
		if (file.size > MOST_PACKED) {
			setError(
				`This file has ${megabytes(file.size)}; at most ${megabytes(MOST_PACKED)} are taken. Split it, or import its folder on the server with npm run import -- DIR.`,
			);
			return;
		}
		setError(null);
		setReport(null);
		setSending(true);
		try {
			const query = new URLSearchParams({ wait: "false", dry_run: String(options.dryRun), skip_bad: String(options.skipBad), name: file.name });
			const answer = await fetch(`/api/v1/imports?${query}`, { method: "POST", body: file, headers: { "content-type": "application/zip" } });
			const body = await answer.json();
			if (answer.ok) await follow(body.id);
			else setError(String(body.detail));
		} catch {
			setError("The file could not be sent. The server may be busy, or the file too large; nothing was written.");
		} finally {
			setSending(false);
		}
	};

	return (
		<div className="setup-two">
			<section className="panel">
				<h2>Import a bundle</h2>
				<p className="second">
					A zip of CSV files: people, accounts, stages, deals and their versions, and what else there is. All is checked first; then all is written, or nothing.
				</p>
				<Form
					onSubmit={(event) => {
						event.preventDefault();
						void send({ dryRun: false, skipBad: false });
					}}
				>
					<Form.Group controlId="bundle" className="mb-3">
						<Form.Label>The zip</Form.Label>
						<Form.Control
							ref={picker}
							type="file"
							accept=".zip,application/zip"
							onChange={(event) => {
								setFile((event.target as HTMLInputElement).files?.[0] ?? null);
								setReport(null);
								setError(null);
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
				{running && report && (
					<div className="mt-3" role="status">
						<p className="mb-1">{report.step || "Working"} …</p>
						<ProgressBar
							now={report.progress.total ? report.progress.done : 1}
							max={report.progress.total || 1}
							animated
							striped={!report.progress.total}
							aria-label="Progress of the import"
						/>
					</div>
				)}
				{report && !running && (
					<ImportReport report={report} onSkipBad={file && report.state === "refused" ? () => void send({ dryRun: false, skipBad: true }) : undefined} />
				)}
			</section>
			<section className="panel">
				<h2>Export</h2>
				<p className="second">Everything goes out again as the same bundle: what was imported and what was done since. Unknown columns come back too.</p>
				<a className="btn btn-outline-primary" href="/api/v1/export" download>
					Export the bundle
				</a>
				<h2 className="mt-4">Past imports</h2>
				{past.length === 0 && <p className="second mb-0">None yet.</p>}
				<ul className="rows small-text">
					{past.map((one) => (
						<li key={one.id}>
							<button type="button" className="plain-button" onClick={() => setReport(one)}>
								{one.name}
								{one.dryRun && " (check only)"}
							</button>
							<span className="second text-nowrap">
								{one.startedAt.slice(0, 16).replace("T", " ")} · {one.state}
							</span>
						</li>
					))}
				</ul>
			</section>
			<BundleFiles />
		</div>
	);
}
