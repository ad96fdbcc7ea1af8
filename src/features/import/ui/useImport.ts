"use client";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { MOST_PACKED, megabytes } from "@/formats/bundle/limits";
import { useRefresh } from "@/ui/useAct";
import type { ImportJson } from "../server/importBundle";

const RUNNING = ["reading", "writing"];
export const isRunning = (one: Pick<ImportJson, "state">) => RUNNING.includes(one.state);

const PAUSE = 400;

/** An import: sent, and followed until it is over, also after a reload and while the server can't be reached for a time. */
export function useImport(past: readonly ImportJson[]) {
	// Long: one state with all that changes it.
	const refresh = useRefresh();
	const [id, setId] = useState<string | null>(past.find(isRunning)?.id ?? null);
	const [error, setError] = useState<string | null>(null);
	const [sending, setSending] = useState(false);
	const { data, isError } = useQuery({
		queryKey: ["import", id],
		enabled: id !== null,
		initialData: past.find((one) => one.id === id),
		staleTime: 0,
		queryFn: async ({ signal }): Promise<ImportJson> => {
			const answer = await fetch(`/api/v1/imports/${id}`, { signal });
			if (!answer.ok) throw new Error(`the import’s report answers ${answer.status}`);
			return answer.json();
		},
		refetchInterval: ({ state }) => (state.data && !isRunning(state.data) ? false : PAUSE),
		refetchIntervalInBackground: true,
	});
	const report = id === null ? null : (data ?? null);
	const running = report !== null && isRunning(report);
	// Whatever it changed is shown once it is over; one that was over when it was opened changed nothing now.
	const [followed, setFollowed] = useState<string | null>(null);
	useEffect(() => {
		if (running) setFollowed(id);
		else if (report && followed === id) {
			setFollowed(null);
			refresh();
		}
	}, [running, report, id, followed, refresh]);

	const send = async (file: File, options: { dryRun: boolean; skipBad: boolean }) => {
		if (file.size > MOST_PACKED) {
			return setError(
				`This file has ${megabytes(file.size)}; at most ${megabytes(MOST_PACKED)} are allowed. Split it, or import its folder on the server with npm run import -- DIR.`,
			);
		}
		setError(null);
		setId(null);
		setSending(true);
		try {
			const query = new URLSearchParams({ wait: "false", dry_run: String(options.dryRun), skip_bad: String(options.skipBad), name: file.name });
			const answer = await fetch(`/api/v1/imports?${query}`, { method: "POST", body: file, headers: { "content-type": "application/zip" } });
			const body = await answer.json();
			if (!answer.ok) return setError(String(body.detail));
			setFollowed(body.id);
			setId(body.id);
		} catch {
			setError("Couldn’t send the file. The server may be busy, or the file too large. Nothing was imported.");
		} finally {
			setSending(false);
		}
	};
	return {
		report,
		running,
		sending,
		error,
		/** it runs, but how far it is can't be asked just now */
		away: isError && (report === null || running),
		send,
		/** shows the report of an earlier one, or (null) none */
		look: (one: string | null) => {
			setError(null);
			setId(one);
		},
	};
}
