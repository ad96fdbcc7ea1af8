"use client";
import { useEffect, useMemo, useState } from "react";
import { Alert, Button, Spinner } from "react-bootstrap";

/**
 * A long text that came with the page, or is fetched where it didn't, unpacked. While a newer one is on its way the
 * last one stays. `again` tries once more after a failure.
 */
export function usePacked<T>(packed: string | null, address: string, unpack: (text: string) => T): { value: T | null; failed: boolean; again: () => void } {
	const [fetched, setFetched] = useState<string | null>(null);
	const [failed, setFailed] = useState(false);
	const [tries, setTries] = useState(0);
	// biome-ignore lint/correctness/useExhaustiveDependencies: another try asks the same address
	useEffect(() => {
		if (packed !== null) return;
		const stop = new AbortController();
		setFailed(false);
		fetch(address, { signal: stop.signal })
			.then(async (answer) => (answer.ok && answer.body ? setFetched(await textOf(answer.body)) : setFailed(true)))
			.catch(() => !stop.signal.aborted && setFailed(true));
		return () => stop.abort();
	}, [packed, address, tries]);
	const text = packed ?? fetched;
	const value = useMemo(() => (text === null ? null : unpack(text)), [text, unpack]);
	return { value, failed, again: () => setTries(tries + 1) };
}

const textOf = (packed: ReadableStream<Uint8Array>) =>
	new Response(packed.pipeThrough(new DecompressionStream("gzip") as ReadableWritablePair<Uint8Array, Uint8Array>)).text();

export function Fetching({ words }: { words: string }) {
	return (
		<p className="panel second" role="status">
			<Spinner as="span" size="sm" /> {words}
		</p>
	);
}

export function NotFetched({ again }: { again: () => void }) {
	return (
		<Alert variant="warning" role="alert">
			This couldn’t be fetched; the connection or the server may be down.{" "}
			<Button variant="link" className="p-0 align-baseline" onClick={again}>
				Try again
			</Button>
		</Alert>
	);
}
