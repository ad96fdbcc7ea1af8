"use client";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";

/**
 * What the browser fetches beside pages is kept here: late answers never replace newer ones, what is there stays while
 * it is fetched anew, and a failure is tried once more before it is told.
 */
export function Fetched({ children }: { children: ReactNode }) {
	const [client] = useState(
		() => new QueryClient({ defaultOptions: { queries: { staleTime: 30_000, retry: 1, retryDelay: 400, refetchOnWindowFocus: false } } }),
	);
	return <QueryClientProvider client={client}>{children}</QueryClientProvider>;
}
