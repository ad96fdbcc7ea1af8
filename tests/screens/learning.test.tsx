import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterAll, beforeAll, beforeEach, describe, expect, test, vi } from "vitest";
import { loadDemo } from "@/cli/demoCompany";
import { blockOf, endRow } from "@/core/history/columns";
import { USUAL_LOOK } from "@/features/patterns/server/looking";
import { type OutlookView, outlookHere } from "@/features/patterns/server/readOutlook";
import { readPattern } from "@/features/patterns/server/readPattern";
import { trackRecords } from "@/features/patterns/server/readPatterns";
import type { BehindView, Cell, Times } from "@/features/patterns/table/view";
import { BehindPanel, behindWords } from "@/features/patterns/ui/BehindPanel";
import { bandWords, targetChance } from "@/features/patterns/ui/bandWords";
import { CellView } from "@/features/patterns/ui/CellView";
import { Deciding } from "@/features/patterns/ui/Deciding";
import { FlagRecordLine } from "@/features/patterns/ui/FlagRecordLine";
import { Moved } from "@/features/patterns/ui/Moved";
import { OutlookDeals } from "@/features/patterns/ui/OutlookDeals";
import { OutlookTile } from "@/features/patterns/ui/OutlookTile";
import { OutlookWords } from "@/features/patterns/ui/OutlookWords";
import { PastWeights } from "@/features/patterns/ui/PastWeights";
import { PatternScreen } from "@/features/patterns/ui/PatternScreen";
import { periodsWords } from "@/features/patterns/ui/periodsWords";
import { percent } from "@/features/patterns/ui/ShareBar";
import { recordWords } from "@/features/patterns/ui/useTrackRecords";
import { readPeriod } from "@/features/period/server/readPeriod";
import { Beam } from "@/features/period/ui/Beam";
import { PaceChart } from "@/features/period/ui/PaceChart";
import { readHabits } from "@/features/setup/server/habitSettings";
import { HabitsForm } from "@/features/setup/ui/HabitsForm";
import { resolveViewpoint } from "@/platform/viewpoint";
import { day } from "../kit/company";
import { as, freshDatabase } from "../kit/database";
import { amountIn, show } from "./stage";

// What the past says stands where it is needed: on Period, on sheets, beside rules; and what is done there is really done.
vi.mock("next/navigation", async (actual) => ({
	...(await actual<typeof import("next/navigation")>()),
	useSearchParams: () => new URLSearchParams(),
	useRouter: () => ({ push: () => undefined, refresh: () => undefined }),
}));

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("learning_on_screen");
	await loadDemo(day("2026-11-24"), () => undefined);
});
afterAll(() => database.drop());

const TODAY = day("2026-11-24");
const SEEN = "2026-11-24";
const DAYS = { from: "2026-10-01", to: "2026-12-31", seen: SEEN };

let here: Awaited<ReturnType<typeof outlookHere>>;
let view: OutlookView & { available: true; reason: null };
beforeEach(async () => {
	here = await outlookHere(await as("ruth"), {});
	if (!here.outlook.answer?.available) throw new Error("no outlook");
	view = here.outlook.answer;
});

describe("the outlook on Period", () => {
	test("is said in words with its record, and says why there is none", () => {
		const shown = show(<OutlookWords here={here} error={null} />, "ruth");
		const said = screen.getByText(/At this point of the last 8 quarters the result was inside the band .*; 8 of 10 are meant/).textContent ?? "";
		expect(said).toContain(bandWords(view.record));
		expect(said).toContain(`The chance of the target is ${targetChance(view)}`);
		shown.again(<OutlookWords here={{ ...here, outlook: { answer: { available: false, reason: "It takes 3." }, asOf: null, progress: null } }} error={null} />);
		expect(screen.getByText("No outlook: It takes 3.")).toBeTruthy();
		shown.again(<OutlookWords here={undefined} error={null} />);
		expect(screen.getByText(/Computing/)).toBeTruthy();
		shown.again(<OutlookWords here={undefined} error="The server is away." />);
		expect(screen.getByText(/The server is away/)).toBeTruthy();
	});
	test("says nothing of a target where there is none", () => {
		const without = { ...here, outlook: { ...here.outlook, answer: { ...view, target: null, chanceOfTarget: null } } };
		show(<OutlookWords here={without} error={null} />, "ruth");
		expect(screen.queryByText(/chance of the target/)).toBeNull();
	});
	test("is a bracket over the beam, from its low to its high end", async () => {
		const ruth = await as("ruth");
		const period = await readPeriod(ruth, resolveViewpoint(ruth, {}));
		if (!period) throw new Error("no period");
		show(<Beam figures={period.figures} changes={period.change} against="16 Nov" currency="EUR" days={DAYS} band={view} />, "ruth");
		const bracket = screen.getByRole("img", { name: /^ends between/ });
		const left = (element: Element | null) => Number.parseFloat((element as HTMLElement).style.left);
		const [line, dot] = [bracket.querySelector("i"), bracket.querySelector("b")];
		expect(left(dot)).toBeGreaterThan(left(line));
		expect(left(dot)).toBeLessThan(left(line) + Number.parseFloat((line as HTMLElement).style.width));
		// On one scale with the target.
		const target = document.querySelector(".beam-target");
		const scale = (period.figures.target as number) / left(target);
		expect(left(line) * scale).toBeCloseTo(view.low, -3);
		expect((left(line) + Number.parseFloat((line as HTMLElement).style.width)) * scale).toBeCloseTo(view.high, -3);
	});
	test("leaves beam and pace as they were where there is none", async () => {
		const ruth = await as("ruth");
		const period = await readPeriod(ruth, resolveViewpoint(ruth, {}));
		if (!period) throw new Error("no period");
		show(
			<>
				<Beam figures={period.figures} changes={period.change} against="16 Nov" currency="EUR" days={DAYS} />
				<PaceChart view={period} days={DAYS} />
			</>,
			"ruth",
		);
		expect(screen.queryByRole("img", { name: /^ends between/ })).toBeNull();
		expect(document.querySelector(".pace-fan")).toBeNull();
	});
	test("names what decides, the largest swing first, each with its chance", () => {
		show(<Deciding view={view} seen={SEEN} />, "ruth");
		const deciding = view.deals.filter(({ decides }) => decides).slice(0, 7);
		const rows = within(screen.getByRole("region", { name: "Deals that decide" })).getAllByRole("listitem");
		expect(rows).toHaveLength(deciding.length);
		deciding.forEach(({ name, chance }, i) => {
			expect(rows[i]?.textContent).toContain(name);
			expect(rows[i]?.textContent).toContain(`chance ${percent(chance)}`);
		});
	});
	test("has nothing to name where nothing is open", () => {
		const { container } = show(<Deciding view={{ ...view, deals: [], dueCount: 0, elsewhereCount: 0, deciding: 0 }} seen={SEEN} />, "ruth");
		expect(container.textContent).toBe("");
	});
	test("fits a tile, and says there why there is none", () => {
		const shown = show(<OutlookTile view={view} />, "ruth");
		expect(screen.getByRole("img", { name: /^Won €/ })).toBeTruthy();
		shown.again(<OutlookTile view={{ available: false, reason: "The period is over." }} />);
		expect(screen.getByText("No outlook: The period is over.")).toBeTruthy();
		shown.again(<OutlookTile view={null} />);
		expect(screen.getByText(/check back in a moment/)).toBeTruthy();
	});
});

describe("the deals of an outlook", () => {
	test("open the past deals behind a chance, asked for when they are opened", async () => {
		const { asked } = show(<OutlookDeals view={view} seen={SEEN} />, "ruth");
		expect(asked).toEqual([]);
		const [first] = view.deals;
		fireEvent.click(screen.getByRole("button", { name: new RegExp(`${first?.name}: open the comparable deals`) }));
		const dialog = await screen.findByRole("dialog");
		const step = first?.steps[first.depth];
		await within(dialog).findByText(new RegExp(`^${step?.won} of ${step?.n} were won in time`));
		expect(asked.map(({ name }) => name)).toEqual(["patterns.comparables"]);
	});
	test("are those that decide, until all are wished", () => {
		show(<OutlookDeals view={view} seen={SEEN} />, "ruth");
		const rows = () => within(screen.getByRole("region", { name: "Deals that decide, scrollable" })).getAllByRole("row").length - 1;
		expect(rows()).toBe(view.deciding);
		fireEvent.click(screen.getByRole("button", { name: `Show ${view.deals.length} with their chances` }));
		expect(rows()).toBe(view.deals.length);
		fireEvent.click(screen.getByRole("button", { name: "Only deals that decide" }));
		expect(rows()).toBe(view.deciding);
	});
	test("of a large company are the first of them, and it says that the file holds all", () => {
		const due = view.deals.filter((deal) => deal.due).slice(0, 5);
		show(<OutlookDeals view={{ ...view, dueCount: 900, deals: due.map((deal, i) => ({ ...deal, decides: i < 3 })), deciding: 3 }} seen={SEEN} />, "ruth");
		fireEvent.click(screen.getByRole("button", { name: "Show 5 with their chances" }));
		expect(screen.getByText(/the first 5 of 900 that are due.*export the file for all/)).toBeTruthy();
	});
});

describe("how an outlook moved", () => {
	test("stands step by step between the two means, each step with its largest deals", () => {
		const { moved } = here;
		if (!moved.answer?.available) throw new Error("no bridge");
		show(<Moved moved={moved.answer} words="Mon 16 Nov" currency="EUR" />, "ruth");
		const rows = within(screen.getByRole("region", { name: "How it moved, scrollable" })).getAllByRole("row");
		const told = moved.answer.steps.filter(({ amount, count }) => amount !== 0 || count > 0);
		expect(rows).toHaveLength(told.length + 2);
		told.forEach(({ count, deals }, i) => {
			if (!count) return;
			const items = within(rows[i + 1] as HTMLElement).getAllByRole("listitem", { hidden: true });
			expect(items.length).toBe(deals.length + (count > deals.length ? 1 : 0));
		});
	});
	test("says why it can’t be told", () => {
		show(<Moved moved={{ available: false, reason: "The period is over." }} words="Mon 16 Nov" currency="EUR" />, "ruth");
		expect(screen.getByText(/How it moved since Mon 16 Nov isn’t known: The period is over\./)).toBeTruthy();
	});
});

describe("cells of the past", () => {
	const cell = (given: Cell, onOpen: (key: string) => void = () => undefined) => (
		<CellView cell={given} currency="EUR" seen={SEEN} of="Ines, won" opened={false} onOpen={onOpen} />
	);
	test("are drawn by what they are; what isn’t known is a dash", () => {
		const shown = show(cell({ kind: "money", minor: 123_456_00 }), "ruth");
		const said = () => shown.container.textContent?.replace(/\s/g, " ");
		expect(said()).toBe("€123 456");
		for (const [given, words] of [
			[{ kind: "money", minor: null }, "–"],
			[{ kind: "count", value: 1234 }, "1 234"],
			[{ kind: "number", value: 12.345, digits: 1, unit: "d" }, "12.3 d"],
			[{ kind: "number", value: null, digits: 1, unit: "d" }, "–"],
			[{ kind: "percent", value: 0.1234 }, "12.3%"],
			[{ kind: "day", iso: "2027-01-04" }, "4 Jan 2027"],
			[{ kind: "text", words: "signals a miss", tone: "worse" }, "signals a miss"],
		] as [Cell, string][]) {
			shown.again(cell(given));
			expect(said(), given.kind).toBe(words);
		}
	});
	test("that open deals are buttons which say so, by mouse and by keys alike", () => {
		const opened: string[] = [];
		show(
			cell({ kind: "count", value: 5, opens: "a" }, (key) => opened.push(key)),
			"ruth",
		);
		const button = screen.getByRole("button", { name: /Ines, won: open the deals$/ });
		expect(button.getAttribute("aria-expanded")).toBe("false");
		fireEvent.click(button);
		expect(opened).toEqual(["a"]);
	});
	test("of times say the median with its interval, a curve against everybody’s, and ticks for what is under way", () => {
		const times: Times = {
			finished: 9,
			unfinished: 2,
			mean: 12.34,
			upTo: 30,
			median: 11,
			interval: { low: 8, high: null },
			curve: [
				{ length: 5, share: 0.8 },
				{ length: 11, share: 0.5 },
			],
			lasting: [7, 30],
			all: [{ length: 6, share: 0.5 }],
		};
		const shown = show(cell({ kind: "times", ...times }), "ruth");
		expect(shown.container.textContent).toBe("11 d 12.3 of the first 30 d9 and 2 under way");
		expect(shown.container.querySelectorAll("polyline")).toHaveLength(2);
		// At 7 days eight in ten go on, at 30 half of them.
		expect(shown.container.querySelector(".survival-lasting")?.getAttribute("d")).toMatch(/^M7,(7|8)\.?\d*v24M30,38v24$/);
		expect(screen.getByTitle(/8 to beyond the longest seen working days/)).toBeTruthy();
		shown.again(cell({ kind: "times", ...times, finished: 0, unfinished: 22, mean: null, upTo: null, median: null, curve: [] }));
		expect(shown.container.textContent).toBe("not reached 0 and 22 under way");
		shown.again(cell({ kind: "times", ...times, finished: 2, unfinished: 2 }));
		expect(shown.container.textContent).toBe("4: too few");
	});
});

describe("the deals behind a figure", () => {
	const behind: BehindView = {
		key: "k",
		title: "In commit",
		sum: "1 of 2 were won in time",
		hidden: 3,
		lines: [
			{ id: "a", name: "Ovens", account: "Millrace", owner: "Ines", amount: 100_00, day: "2026-09-02", came: "won in time", hit: true },
			{ id: "a", name: "Ovens", account: "Millrace", owner: "Ines", amount: null, day: "2026-06-02", came: "lost", hit: false },
		],
	};
	test("lead to each deal as it was on the day looked at, and close by Escape", () => {
		let closed = 0;
		show(<BehindPanel behind={behind} currency="EUR" seen={SEEN} onClose={() => closed++} />, "ruth");
		const links = screen.getAllByRole("link", { name: "Ovens" }) as HTMLAnchorElement[];
		expect(links.map((link) => link.getAttribute("href"))).toEqual(["/deals/a?seen=2026-09-02", "/deals/a?seen=2026-06-02"]);
		expect(document.activeElement?.textContent).toBe("In commit");
		fireEvent.keyDown(window, { key: "Escape" });
		fireEvent.click(screen.getByRole("button", { name: "Close" }));
		expect(closed).toBe(2);
	});
	test("say how many can’t be shown, and that there is none where there is none", () => {
		expect(behindWords(behind)).toBe("1 of 2 were won in time; 3 deals of others’ aren’t shown to you.");
		expect(behindWords({ ...behind, hidden: 0 })).toBe("1 of 2 were won in time.");
		show(<BehindPanel behind={{ ...behind, lines: [] }} currency="EUR" seen={SEEN} onClose={() => undefined} />, "ruth");
		expect(screen.getByText("No deals that you can see.")).toBeTruthy();
	});
});

describe("a track record beside a flag", () => {
	test("is said with its counts, and only with enough deals", async () => {
		const { items } = await trackRecords(await as("ines"), {});
		const runway = items.find(({ code }) => code === "short-runway");
		const words = recordWords(runway);
		expect(words).toBe(`of ${runway?.with.n} deals with it, ${runway?.with.k} weren’t won in time; without it ${runway?.without.k} of ${runway?.without.n}`);
		expect(recordWords(items.find(({ code }) => code === "unowned"))).toBeNull();
		expect(recordWords(undefined)).toBeNull();
		expect(recordWords(items.find(({ code }) => code === "stale-answers"))).toContain("the difference may be chance");
		show(<FlagRecordLine code="short-runway" />, "ines");
		await screen.findByText(`In the last four quarters, ${words}.`);
	});
	test("of quarters and of months is said so", () => {
		expect(periodsWords([{ from: "2026-07-01", to: "2026-09-30" }])).toBe("1 quarter");
		expect(periodsWords(Array(6).fill({ from: "2026-09-01", to: "2026-09-30" }))).toBe("6 months");
	});
});

describe("weights from the past", () => {
	test("are looked at when they are opened, tried, taken and deleted", async () => {
		const { asked, idle } = show(<PastWeights />, "arno");
		expect(asked).toEqual([]);
		const details = document.querySelector("details") as HTMLDetailsElement;
		details.open = true;
		fireEvent(details, new Event("toggle"));
		await screen.findByText("medium");
		const group = () => screen.getByRole("group", { name: /Flags without weight/ });
		await waitFor(() => expect(within(group()).getByLabelText("short runway")).toBeTruthy());
		expect(screen.queryByRole("button", { name: /Take these weights/ })).toBeNull();
		fireEvent.click(within(group()).getByLabelText("short runway"));
		fireEvent.click(screen.getByLabelText("Weight each severity by its lift"));
		fireEvent.click(screen.getByRole("button", { name: "Preview the effect" }));
		await screen.findByText(/They would have sorted past quarters better\.|No clear gain over past quarters\./);
		const chances = within(screen.getByRole("table", { name: /ranked above one that was/ }))
			.getAllByRole("row")
			.slice(1);
		expect(chances.map((row) => row.textContent)).toEqual(Array(4).fill(expect.stringMatching(/^\w{3}–\w{3} \d{4}0\.\d{3}0\.\d{3}$/)));
		// What is changed after a look has to be looked at again.
		fireEvent.click(screen.getByLabelText("Weight each severity by its lift"));
		expect(screen.queryByRole("button", { name: /Take these weights/ })).toBeNull();
		fireEvent.click(screen.getByRole("button", { name: "Preview the effect" }));
		fireEvent.click(await screen.findByRole("button", { name: "Use these weights from today on" }));
		await screen.findByText(/These weights apply from today on/);
		await idle();
		expect((await as("arno")).organisation.company.rules.attention).toEqual({ unweighed: ["short-runway"] });
		fireEvent.click(await screen.findByRole("button", { name: "Restore the weights from before 24 Nov" }));
		await screen.findByText("The previous weights apply again.");
		await idle();
		expect((await as("arno")).organisation.company.rules.attention).toEqual({});
		expect((await as("arno")).organisation.company.rules.attentionWas).toEqual([]);
	});
});

describe("reasons that end", () => {
	test("are said in Setup beside the goal of commits, and come back with undo", async () => {
		const { idle } = show(<HabitsForm habits={readHabits(await as("arno"))} stages={["Enquiry"]} mayChange />, "arno");
		fireEvent.change(screen.getByLabelText("Price: when it ends"), { target: { value: "12" } });
		fireEvent.change(screen.getByLabelText("No decision: when it ends"), { target: { value: "" } });
		fireEvent.change(screen.getByLabelText(/Of what is in commit/), { target: { value: "85" } });
		fireEvent.click(await screen.findByRole("button", { name: "Save habits" }));
		await screen.findByText("Saved.");
		await idle();
		const { returns, goal } = readHabits(await as("arno"));
		expect(returns).toMatchObject({ Price: 12, "Budget moved to next year": "year" });
		expect(returns["No decision"]).toBeUndefined();
		expect(goal).toBe(85);
		fireEvent.click(screen.getByRole("button", { name: "Undo" }));
		await idle();
		expect(readHabits(await as("arno"))).toMatchObject({ goal: 90, returns: { "No decision": 6 } });
	});
	test("make a task of coming back, on the day that suggests itself or another, and take it back", async () => {
		const asked = { scope: null, day: TODAY, look: USUAL_LOOK, by: undefined };
		const read = async () => {
			const { found } = await readPattern(await as("ruth"), "reasons", asked);
			if (!found.answer) throw new Error("nothing was found");
			return found.answer;
		};
		const { idle, again } = show(<PatternScreen view={await read()} behind={null} seen={SEEN} />, "ruth");
		const table = () => within(screen.getByRole("region", { name: "Lost for a reason that ends, scrollable" }));
		const owned = (await as("ruth")).organisation;
		const mine = owned.people.flatMap(({ team, id }) => (team === "North" ? [id] : []));
		expect(mine.length).toBeGreaterThan(0);
		const days = table().getAllByLabelText(/^Follow-up day/) as HTMLInputElement[];
		expect(days.every(({ value }) => Date.parse(value) > Date.parse(SEEN))).toBe(true);
		const rows = table().getAllByRole("row").slice(1);
		const north = rows.findIndex((row) => {
			const href = row.querySelector("a")?.getAttribute("href") ?? "";
			const index = owned.dealIndex.get(decodeURIComponent(href.split("/").at(-1) ?? ""));
			if (index === undefined) return false;
			const block = blockOf(owned.company.history, index);
			return mine.includes(owned.people[block.owner[endRow(block, index) - 1] ?? -1]?.id ?? "");
		});
		if (north < 0) throw new Error("no deal of the North was lost so");
		fireEvent.change(within(rows[north] as HTMLElement).getByLabelText(/^Follow-up day/), { target: { value: "2027-03-08" } });
		fireEvent.click(within(rows[north] as HTMLElement).getByRole("button", { name: "Give task" }));
		await screen.findByText(/is due for follow-up on 8 Mar 2027/);
		await idle();
		again(<PatternScreen view={await read()} behind={null} seen={SEEN} />);
		expect(table().getByText("follow-up on 8 Mar 2027")).toBeTruthy();
	});
});

describe("the sums on screen", () => {
	test("of price add up by hand: what reps gave away is what all did", async () => {
		const { found } = await readPattern(await as("helena"), "price", { scope: null, day: TODAY, look: USUAL_LOOK, by: "rep" });
		if (!found.answer) throw new Error("nothing was found");
		show(<PatternScreen view={found.answer} behind={null} seen={SEEN} />, "helena");
		const rows = within(screen.getByRole("region", { name: "Late discounts, scrollable" }))
			.getAllByRole("row")
			.slice(1);
		const amounts = rows.map((row) =>
			within(row)
				.getAllByRole("cell")
				.slice(1, 3)
				.map((one) => amountIn(one.querySelector("[title]")?.getAttribute("title") ?? "")),
		);
		const all = amounts.pop() as number[];
		// Of reps with fewer than five deals nothing is said, so theirs isn't among the parts.
		const said = amounts.filter((row) => row.every(Number.isFinite));
		expect(said.length).toBeGreaterThan(0);
		for (const column of [0, 1]) {
			const parts = said.reduce((sum, row) => sum + (row[column] ?? 0), 0);
			if (said.length === amounts.length) expect(parts).toBe(all[column]);
			else expect(parts).toBeLessThan(all[column] as number);
		}
	});
});
