"use client";
import { useRouter } from "next/navigation";
import { Button } from "react-bootstrap";
import { useMay } from "@/ui/frame/may";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";

/** Starts a round over deals that are selected in a list, in the order of the list. */
export function HoldRound({ dealIds, due }: { dealIds: readonly string[]; due: string }) {
	const run = useRun();
	const act = useAct();
	const router = useRouter();
	if (!useMay("holdRounds")) return null;
	const start = async () => {
		const done = await act(run("rounds.start", { dealIds: [...dealIds], due, sorted: "hand" }));
		if (done) router.push(`/rounds/${done.result.id}`);
	};
	return (
		<Button size="sm" variant="outline-primary" disabled={!dealIds.length} onClick={() => void start()}>
			Start a round
		</Button>
	);
}
