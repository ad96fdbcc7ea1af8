"use client";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useMemo, useRef } from "react";
import { Alert, Button, Spinner } from "react-bootstrap";
import { joinParts, KNOWN_PARTS, nameable, namesOf, type Parts } from "@/formats/knownParts";

/**
 * A long text that came with the page, or is fetched where it didn't, unpacked. While a newer one is on its way, or
 * can't be had, the last one stays; of a newer one only the parts are fetched that the last one hadn't. `again` tries
 * once more after a failure.
 */
export function usePacked<T>(packed: string | null, address: string, unpack: (text: string) => T): { value: T | null; failed: boolean; again: () => void } {
	const parts = useRef<Parts>(new Map());
	const { data, isError, refetch } = useQuery({
		queryKey: ["packed", address],
		enabled: packed === null,
		placeholderData: keepPreviousData,
		queryFn: async ({ signal }) => {
			const known = nameable(parts.current);
			const answer = await fetch(address, { signal, headers: { [KNOWN_PARTS]: namesOf(known) } });
			if (!answer.ok || !answer.body) throw new Error(`${address} answers ${answer.status}`);
			const joined = joinParts(await textOf(answer.body), known);
			parts.current = joined.parts;
			return joined.text;
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
