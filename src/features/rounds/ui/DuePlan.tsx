"use client";
import { Button } from "react-bootstrap";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { RoundView } from "../server/readRound";

/** Says in an unplanned round that a planned one is due today, and makes this one be it. */
export function DuePlan({ round, plan }: { round: RoundView; plan: RoundView["due"][number] }) {
	const run = useRun();
	const act = useAct();
	const make = () =>
		act(
			run("rounds.makePlanned", { id: round.id, planId: plan.id }),
			({ name }) => `This is “${name}” now.`,
			({ id }) => run("rounds.makePlanned", { id, planId: null }),
		);
	return (
		<p className="panel small-text d-flex flex-wrap gap-2 align-items-center no-print">
			“{plan.name}” is planned for today, but this round isn’t part of that plan.
			<Button size="sm" variant="outline-primary" onClick={() => void make()}>
				Use this round for the plan
			</Button>
		</p>
	);
}
