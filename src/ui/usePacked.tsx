"use client";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { Alert, Button, Spinner } from "react-bootstrap";

/**
 * A long text that came with the page, or is fetched where it didn't, unpacked. While a newer one is on its way, or
 * can't be had, the last one stays. `again` tries once more after a failure.
 */
export function usePacked<T>(packed: string | null, address: string, unpack: (text: string) => T): { value: T | null; failed: boolean; again: () => void } {
	const { data, isError, refetch } = useQuery({
		queryKey: ["packed", address],
		enabled: packed === null,
		placeholderData: keepPreviousData,
		queryFn: async ({ signal }) => {
			const answer = await fetch(address, { signal });
			if (!answer.ok || !answer.body) throw new Error(`${address} answers ${answer.status}`);
			return textOf(answer.body);
		},
	});
	const text = packed ?? data ?? null;
	const value = useMemo(() => (text === null ? null : unpack(text)), [text, unpack]);
	return { value, failed: isError && value === null, again: () => void refetch() };
}

const textOf = (packed: ReadableStream<Uint8Array>) =>
	new Response(packed.pipeThrough(new DecompressionStream("deflate-raw") as ReadableWritablePair<Uint8Array, Uint8Array>)).text();

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
