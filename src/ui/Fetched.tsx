"use client";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";

/** In such words is said that what was asked for can’t be answered just now. */
const AWAY = /can’t be reached|answers 50[234]$/;

/**
 * What the browser fetches beside pages is kept here: late answers never replace newer ones, what is there stays while
 * it is fetched anew, and a failure is tried once more before it is told; while the database or the server is away, for
 * as long as that usually takes.
 */
export function Fetched({ children }: { children: ReactNode }) {
	const [client] = useState(
		() =>
			new QueryClient({
				defaultOptions: {
					queries: {
						staleTime: 30_000,
						retry: (failures, error) => failures < (AWAY.test(error.message) ? 12 : 1),
						retryDelay: (failures) => (failures ? 1500 : 400),
						refetchOnWindowFocus: false,
					},
				},
			}),
	);
	return <QueryClientProvider client={client}>{children}</QueryClientProvider>;
}
