import { render, screen, within } from "@testing-library/react";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { loadDemo } from "@/cli/demoCompany";
import { shareOf } from "@/core/statistics/wilson";
import { quarterOf } from "@/core/time/period";
import { readOutlook } from "@/features/patterns/server/readOutlook";
import { readAccuracy, readForetelling, readStageTimes, USUAL_LOOK } from "@/features/patterns/server/readPatterns";
import { AccuracyScreen } from "@/features/patterns/ui/AccuracyScreen";
import { ForetellScreen } from "@/features/patterns/ui/ForetellScreen";
import { OutlookScreen } from "@/features/patterns/ui/OutlookScreen";
import { percent, ShareBar } from "@/features/patterns/ui/ShareBar";
import { StageTimesScreen } from "@/features/patterns/ui/StageTimesScreen";
import { scopeOf } from "@/platform/reach";
import { day } from "../kit/company";
import { as, freshDatabase } from "../kit/database";
import { amountIn, show } from "./stage";

// What stands on the screens of the past is what was measured.
let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("patterns_on_screen");
	await loadDemo(day("2026-11-24"), () => undefined);
});
afterAll(() => database.drop());

const TODAY = day("2026-11-24");
const region = (name: string) => screen.getByRole("region", { name: `${name}, scrollable` });

describe("a share", () => {
	test("is said with its counts and its interval; of too few nothing is said", () => {
		const { rerender } = render(<ShareBar share={shareOf(7, 10)} />);
		expect(screen.getByText("70%")).toBeTruthy();
		expect(screen.getByText("7 of 10")).toBeTruthy();
		expect(screen.getByTitle("7 of 10; 95% interval 40% to 89%")).toBeTruthy();
		rerender(<ShareBar share={shareOf(3, 4)} />);
		expect(screen.getByText("4 deals: too few")).toBeTruthy();
		rerender(<ShareBar share={shareOf(0, 0)} />);
		expect(screen.getByText("none")).toBeTruthy();
		expect(percent(null)).toBe("–");
	});
});

describe("the outlook on screen", () => {
	test("names the deals that decide with their chances, says what is left, and counts its record", async () => {
		const ruth = await as("ruth");
		const view = await readOutlook(ruth, scopeOf(ruth, "North", undefined), quarterOf(TODAY, 1), TODAY);
		if (!view.available) throw new Error(view.reason);
		show(<OutlookScreen view={view} due="Oct–Dec 2026" whose="North team’s" />, "ruth");
		const deciding = view.deals.filter(({ decides }) => decides);
		const rows = within(region("Deals that decide")).getAllByRole("row").slice(1);
		expect(rows).toHaveLength(deciding.length);
		deciding.forEach((deal, i) => {
			expect(within(rows[i] as HTMLElement).getByText(percent(deal.chance))).toBeTruthy();
			expect(amountIn(within(rows[i] as HTMLElement).getAllByRole("cell")[1]?.textContent ?? "")).toBe(deal.amount);
		});
		expect(screen.getByText(new RegExp(`${view.deals.length - deciding.length} other open deals`))).toBeTruthy();
		const held = within(region("Its own record")).getAllByText("yes");
		expect(held).toHaveLength(view.record.periods.filter(({ inside }) => inside).length);
		expect(screen.getByText(new RegExp(`The chance of the target of .* is ${percent(view.chanceOfTarget)}`))).toBeTruthy();
	});
	test("says why there is none", () => {
		show(<OutlookScreen view={{ available: false, reason: "The period is over." }} due="Jul–Sep 2026" whose="My" />, "ines");
		expect(screen.getByText("No outlook for Jul–Sep 2026")).toBeTruthy();
		expect(screen.getByText(/The period is over\. The weighted figure/)).toBeTruthy();
	});
});

describe("the past on screen", () => {
	test("flags stand by how much more often their deals aren't won, those that foretold nothing are named", async () => {
		const view = readForetelling(await as("helena"), USUAL_LOOK, TODAY);
		show(<ForetellScreen view={view} look={USUAL_LOOK} />, "helena");
		const rows = within(region("Flags")).getAllByRole("row").slice(1);
		const lifts = rows.map((row) => Number.parseFloat(within(row).getAllByRole("cell")[2]?.textContent ?? "")).filter((lift) => !Number.isNaN(lift));
		expect(lifts).toEqual([...lifts].sort((a, b) => b - a));
		for (const { name, lift } of view.flags)
			if (lift !== null && lift < 1.15 && lift > 1 / 1.15) expect(screen.getByText(/foretold nothing/).textContent).toContain(name);
		expect(within(region("Levels of attention")).getAllByRole("row")).toHaveLength(3);
	});
	test("a look at a past that is too short says so", () => {
		show(<ForetellScreen view={{ quarters: [], flags: [], levels: [], answers: [] }} look={USUAL_LOOK} />, "helena");
		expect(screen.getByText("The past is too short to say what foretells")).toBeTruthy();
	});
	test("commits stand by rep and add up to the whole below", async () => {
		const helena = await as("helena");
		show(<AccuracyScreen view={readAccuracy(helena, null, "commit", USUAL_LOOK, TODAY)} look={USUAL_LOOK} whose="Everyone’s" currency="EUR" />, "helena");
		const rows = within(region("By rep")).getAllByRole("row").slice(1);
		const amounts = rows.map((row) => amountIn(within(row).getAllByRole("cell")[2]?.textContent ?? ""));
		expect(amounts.slice(0, -1).reduce((sum, amount) => sum + amount, 0)).toBe(amounts.at(-1));
	});
	test("time in stage names the longest, and says of few visits that they are too few", async () => {
		const helena = await as("helena");
		const items = readStageTimes(helena, "rep", TODAY);
		show(<StageTimesScreen items={items} by="rep" stages={helena.organisation.company.rules.stages.map(({ name }) => name)} />, "helena");
		const longest = Math.max(...items.map(({ median }) => median ?? 0));
		expect(screen.getByRole("heading", { level: 2 }).textContent).toContain(`take ${longest} working days`);
		const few = items.filter(({ finished, unfinished }) => finished + unfinished < 5).length;
		expect(screen.queryAllByText(/: too few$/)).toHaveLength(few);
	});
});
