"use client";
import { useEffect, useState, useSyncExternalStore } from "react";
import { Button } from "react-bootstrap";
import { patientFetch } from "./patientFetch";
import { onReach, reachNow, tooOld } from "./reach";
import { forgetTyped, noteFirst, reloadKeeping, type Typed, typedBefore } from "./typed";

/** A part of the old build’s code that the server doesn’t have any more. */
const GONE = /ChunkLoadError|Failed to load chunk|dynamically imported module/i;

/** Reads pages so that none is lost, and notices what of an old build is gone. */
function useKept(build: string | null) {
	useEffect(() => {
		const plain = window.fetch;
		window.fetch = patientFetch(plain.bind(window), build || null);
		const gone = (error: unknown) => {
			if (GONE.test(`${(error as Error | null)?.name} ${(error as Error | null)?.message}`)) tooOld();
		};
		const failed = ({ error }: ErrorEvent) => gone(error);
		const refused = ({ reason }: PromiseRejectionEvent) => gone(reason);
		addEventListener("error", failed);
		addEventListener("unhandledrejection", refused);
		document.addEventListener("focusin", noteFirst);
		return () => {
			window.fetch = plain;
			removeEventListener("error", failed);
			removeEventListener("unhandledrejection", refused);
			document.removeEventListener("focusin", noteFirst);
		};
	}, [build]);
}

/**
 * Keeps the page while the server is away or has become another, and says so: what is open and typed stays. `build` is the
 * build that the page is of, null where that isn’t known.
 */
export function ReachBar({ build }: { build: string | null }) {
	const reach = useSyncExternalStore(onReach, reachNow, () => "here" as const);
	useKept(build);
	return (
		<div className="reach no-print" role="status">
			{reach === "away" && <p>The server can’t be reached just now. What you see and what you typed stay; what you open waits until it can.</p>}
			{reach === "older" && (
				<p>
					A newer version of the program is running. This page still belongs to the one before, and its figures are no longer brought up to date.{" "}
					<Button size="sm" variant="outline-primary" className="bg-body" onClick={reloadKeeping}>
						Reload, keep what I typed
					</Button>
				</p>
			)}
			<TypedBefore />
		</div>
	);
}

/** What was typed before the page was loaded again, until it is put away. */
function TypedBefore() {
	const [typed, setTyped] = useState<readonly Typed[]>([]);
	useEffect(() => setTyped(typedBefore()), []);
	if (!typed.length) return null;
	return (
		<div>
			<p className="mb-1">Typed before the page was reloaded, and not sent:</p>
			<ul>
				{typed.map(({ label, text }) => (
					<li key={`${label} ${text}`}>
						{label && <span className="second">{label}: </span>}
						<span className="reach-text">{text}</span>{" "}
						<Button size="sm" variant="link" className="p-0" onClick={() => void navigator.clipboard.writeText(text)}>
							Copy
						</Button>
					</li>
				))}
			</ul>
			<Button
				size="sm"
				variant="outline-primary"
				className="bg-body"
				onClick={() => {
					forgetTyped();
					setTyped([]);
				}}
			>
				Discard
			</Button>
		</div>
	);
}
