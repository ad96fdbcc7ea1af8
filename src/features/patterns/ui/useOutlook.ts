"use client";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useSearchParams } from "next/navigation";
import { useRun } from "@/ui/run";

const SENTENCE = ["whose", "due", "seen", "against"] as const;
/** so often it is looked whether what is being worked out is done */
const LOOK = 2000;

/** The sentence as it stands in the address. */
export function useSentenceOfAddress(): Readonly<Record<(typeof SENTENCE)[number], string | undefined>> {
	const params = useSearchParams();
	return Object.fromEntries(SENTENCE.map((name) => [name, params.get(name) ?? undefined])) as ReturnType<typeof useSentenceOfAddress>;
}

/** Where the period of the sentence will end, and how that moved: asked for once the screen is there, and anew after each write. */
export function useOutlook(revision: number, wanted = true) {
	const run = useRun();
	const sentence = useSentenceOfAddress();
	return useQuery({
		queryKey: ["outlook", sentence, revision],
		queryFn: async () => {
			const outcome = await run("patterns.outlookHere", sentence);
			if (!outcome.ok) throw new Error(outcome.detail);
			return outcome.result;
		},
		enabled: wanted,
		retry: false,
		placeholderData: keepPreviousData,
		refetchInterval: ({ state: { data } }) => (data?.outlook.progress || data?.moved.progress ? LOOK : false),
	});
}
