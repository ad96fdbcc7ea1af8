import { render, screen, within } from "@testing-library/react";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { loadDemo } from "@/cli/demoCompany";
import { PLACE_WORDS } from "@/core/outlook/kindWords";
import { shareOf } from "@/core/statistics/wilson";
import { quarterOf } from "@/core/time/period";
import { PATTERN_KINDS } from "@/features/patterns/server/kinds";
import { USUAL_LOOK } from "@/features/patterns/server/looking";
import { readOutlook } from "@/features/patterns/server/readOutlook";
import { readPattern } from "@/features/patterns/server/readPattern";
import { targetChance } from "@/features/patterns/ui/bandWords";
import { Known } from "@/features/patterns/ui/Known";
import { OutlookScreen } from "@/features/patterns/ui/OutlookScreen";
import { PatternScreen } from "@/features/patterns/ui/PatternScreen";
import { percent, ShareBar } from "@/features/patterns/ui/ShareBar";
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
		const { rerender, container } = render(<ShareBar share={shareOf(14, 20)} />);
		expect(container.textContent).toBe("70% 14 of 20");
		// Of few a percent would say more than is known; where a deal counts more than once it says how many there are.
		rerender(<ShareBar share={shareOf(7, 10)} />);
		expect(container.textContent).toBe("7 of 10 ");
		rerender(<ShareBar share={{ ...shareOf(7, 10), deals: 10 }} />);
		expect(container.textContent).toBe("7 of 10 ");
		rerender(<ShareBar share={{ ...shareOf(14, 20), deals: 16 }} />);
		expect(container.textContent).toBe("70% 14 of 20, of 16 deals");
		rerender(<ShareBar share={{ ...shareOf(7, 10), deals: 6 }} />);
		expect(container.textContent).toBe("7 of 10 of 6 deals");
		expect(screen.getByTitle("7 of 10; 95% interval 40% to 89%")).toBeTruthy();
		rerender(<ShareBar share={shareOf(3, 4)} />);
		expect(screen.getByText("4: too few")).toBeTruthy();
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
		show(<OutlookScreen view={view} due="Oct–Dec 2026" whose="North team’s" seen="2026-11-24" />, "ruth");
		const deciding = view.deals.filter(({ decides }) => decides);
		const rows = within(region("Deals that decide")).getAllByRole("row").slice(1);
		expect(rows).toHaveLength(deciding.length);
		deciding.forEach((deal, i) => {
			expect(within(rows[i] as HTMLElement).getByText(percent(deal.chance))).toBeTruthy();
			expect(amountIn(within(rows[i] as HTMLElement).getAllByRole("cell")[1]?.textContent ?? "")).toBe(deal.amount);
		});
		const parts = within(region("The expected total")).getAllByRole("row").slice(1);
		const amounts = parts.map((row) => amountIn(within(row).getAllByRole("cell").at(-1)?.textContent ?? ""));
		expect(Math.abs(amounts.slice(0, -1).reduce((sum, amount) => sum + amount, 0) - (amounts.at(-1) ?? 0))).toBeLessThanOrEqual(300);
		expect(amounts.at(-1)).toBe(view.mean);
		for (const { place, open, n, won } of view.places.filter((one) => one.open))
			expect(screen.getByText(`${open} ${PLACE_WORDS[place]}`).parentElement?.textContent).toContain(n ? `${won} of ${n}` : "none such");
		const held = within(region("Track record")).getAllByText("yes");
		expect(held).toHaveLength(view.record.periods.filter(({ inside }) => inside).length);
		expect(screen.getByText(new RegExp(`The chance of the target of .* is ${targetChance(view)}`))).toBeTruthy();
	});
	test("says why there is none", () => {
		show(<OutlookScreen view={{ available: false, reason: "The period is over." }} due="Jul–Sep 2026" whose="My" seen="2026-11-24" />, "ines");
		expect(screen.getByText("No outlook for Jul–Sep 2026")).toBeTruthy();
		expect(screen.getByText(/The period is over\. The weighted figure/)).toBeTruthy();
	});
});

const asked = { scope: null, day: TODAY, look: USUAL_LOOK, by: undefined };

describe("the views of the past on screen", () => {
	test.each(PATTERN_KINDS.map(({ key }) => key))("%s: each table stands with all its rows and columns, and what opens can be opened", async (key) => {
		const { found } = await readPattern(await as("helena"), key, asked);
		const view = found.answer;
		if (!view) throw new Error("nothing was found");
		show(<PatternScreen view={view} behind={null} seen="2026-11-24" />, "helena");
		expect(screen.getByRole("heading", { level: 2 }).textContent).toBe(view.headline);
		for (const table of view.tables.filter(({ rows }) => rows.length)) {
			const rows = within(region(table.title)).getAllByRole("row");
			expect(rows).toHaveLength(table.rows.length + 1);
			for (const row of rows)
				expect(within(row).queryAllByRole("columnheader").length + within(row).queryAllByRole("cell").length).toBeGreaterThanOrEqual(table.columns.length);
			const opens = table.rows.flatMap(({ cells }) => cells.filter((cell) => "opens" in cell && cell.opens)).length;
			expect(within(region(table.title)).queryAllByRole("button", { name: /open the deals/ })).toHaveLength(opens);
		}
	});
	test("a figure that is opened names its deals with what came of them, and says how many are counted", async () => {
		const { found, behind } = await readPattern(await as("helena"), "foretell", asked, "flag:no-signatory:with");
		if (!found.answer || !behind) throw new Error("nothing was found");
		show(<PatternScreen view={found.answer} behind={behind} seen="2026-11-24" />, "helena");
		const panel = screen.getByRole("complementary", { name: "no signatory: deals with it" });
		const lines = within(panel).getAllByRole("listitem");
		expect(lines).toHaveLength(behind.lines.length);
		expect(
			within(panel).getByText(`${lines.filter((line) => !/won in time/.test(line.textContent ?? "")).length} of ${lines.length} weren’t won in time.`),
		).toBeTruthy();
	});
	test("while it is worked out by a thread it says how far that is, and as of when the rest is known", () => {
		show(<Known asOf={null} progress={{ done: 3, steps: 12 }} zone="Europe/Berlin" first />, "helena");
		expect(screen.getByText("Reading the past …")).toBeTruthy();
		expect(screen.getByRole("progressbar").getAttribute("aria-valuenow")).toBe("25");
		show(<Known asOf="2026-11-24T08:05:00Z" progress={{ done: 6, steps: 12 }} zone="Europe/Berlin" first={false} />, "helena");
		expect(screen.getByText(/As of .*9:05.*changes: 50%/)).toBeTruthy();
	});
});
