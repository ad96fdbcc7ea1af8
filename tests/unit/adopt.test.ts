import { expect, test } from "vitest";
import { packActivities } from "@/core/contact/activities";
import type { Activity } from "@/core/contact/activity";
import { NONE } from "@/core/history/columns";
import { NO_DAY } from "@/core/time/day";
import { adopt, type DealInputs } from "@/data/organisation/inputs";
import { makeCompany } from "../kit/company";

const inputs = (...people: string[]): DealInputs => ({
	zone: "UTC",
	stages: [],
	slots: new Map(),
	currencies: [],
	people: new Map(people.map((id, i) => [id, i])),
	named: new Set(),
});
const by = (person: number): Activity => ({
	kind: "call",
	direction: "out",
	state: "done",
	at: 0,
	day: 1,
	contacts: [],
	recorded: NO_DAY,
	plannedFor: NO_DAY,
	settled: NO_DAY,
	by: person,
});

test("who did an activity is the same person after another has come to stand before them", () => {
	const { deals, history } = makeCompany([{ versions: [{ at: "2026-01-05", owner: 0 }] }, { versions: [{ at: "2026-01-05", owner: 1 }] }]);
	const activities = packActivities([
		[by(0), by(1)],
		[by(NONE), by(1)],
	]);
	const facts = deals.map((deal, i) => ({ ...deal, activities: activities[i] as (typeof activities)[number] }));
	const kept = { deals: [], facts, history };
	const adopted = adopt(kept, inputs("b", "c"), inputs("a", "b", "c"));
	expect(adopted?.facts.map((deal) => [...deal.activities].map((one) => one.by))).toEqual([
		[1, 2],
		[NONE, 2],
	]);
	// The deals of a block share their columns still, and what was kept is as it was.
	expect(adopted?.facts[0]?.activities.columns).toBe(adopted?.facts[1]?.activities.columns);
	expect([...(facts[0]?.activities ?? [])].map((one) => one.by)).toEqual([0, 1]);
	expect(adopt(kept, inputs("b", "c"), inputs("b", "c"))).toBe(kept);
});
