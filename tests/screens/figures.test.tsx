import { fireEvent, screen, within } from "@testing-library/react";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { frameView } from "@/app/server/frame";
import { generate } from "@/fakes/emberwick/generate";
import { readAccounts } from "@/features/accounts/server/readAccounts";
import { AccountsPacked } from "@/features/accounts/ui/AccountsScreen";
import { readChanges } from "@/features/changes/server/readChanges";
import { ChangesPacked, ChangesScreen } from "@/features/changes/ui/ChangesScreen";
import { readEvidence } from "@/features/evidence/server/readEvidence";
import { EvidencePacked } from "@/features/evidence/ui/EvidenceScreen";
import { readSheet } from "@/features/sheet/server/readSheet";
import { SheetBody } from "@/features/sheet/ui/SheetBody";
import { resolveViewpoint } from "@/platform/viewpoint";
import { pack } from "@/ui/packed";
import { day } from "../kit/company";
import { as, freshDatabase, importAs } from "../kit/database";
import { amountIn, show } from "./stage";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("figures_on_screen");
	await importAs(generate({ today: day("2026-11-24"), deals: 120 }));
});
afterAll(() => database.drop());

const look = async (personId: string, query: Parameters<typeof resolveViewpoint>[1] = {}) => {
	const context = await as(personId);
	return { context, viewpoint: resolveViewpoint(context, query) };
};

describe("the bridge on screen", () => {
	test("adds up as it is read: the opening and all steps make the closing", async () => {
		const { context, viewpoint } = await look("helena");
		const view = readChanges(context, viewpoint);
		const { sentence } = await frameView(context, viewpoint);
		show(<ChangesPacked packed={pack({ view, notes: {}, frame: sentence })} />, "helena");
		const figures = within(screen.getByLabelText("Steps as a table"));
		const [list] = figures.getAllByRole("list");
		const amounts = within(list as HTMLElement)
			.getAllByRole("button")
			.map((button) => amountIn(button.querySelector("b")?.textContent ?? ""));
		expect(amounts.length).toBeGreaterThan(4);
		const [opening, ...steps] = amounts;
		const closing = steps.pop() ?? 0;
		// To the cent: what is shown adds up to the sum that is shown.
		expect((opening ?? 0) + steps.reduce((sum, one) => sum + one, 0)).toBe(closing);
	});
	test("without a period says what to do", () => {
		show(<ChangesScreen view={null} notes={{}} frame={{} as never} />, "helena");
		expect(screen.getByRole("heading", { name: "Choose a period for the bridge" })).toBeTruthy();
	});
});

test("the grid of evidence has a line a deal with all questions, worst first, and says so when there is nothing", async () => {
	const { context, viewpoint } = await look("ruth");
	const view = await readEvidence(context, viewpoint);
	const shown = show(<EvidencePacked packed={pack({ view, seen: "2026-11-24" })} />, "ruth");
	const lines = screen.getAllByRole("row").slice(1);
	const names = view.deals.map((deal) => deal.name);
	expect(lines.filter((line) => names.some((name) => line.textContent?.includes(name))).length).toBe(new Set(view.deals.map((deal) => deal.id)).size);
	shown.again(<EvidencePacked packed={pack({ view: { ...view, deals: [] }, seen: "2026-11-24" })} />);
	expect(screen.getByRole("heading", { name: "No open deals here" })).toBeTruthy();
});

test("accounts stand in the order asked for, each with its open amount, and the bands count them all", async () => {
	const { context, viewpoint } = await look("helena");
	const view = await readAccounts(context, viewpoint, { order: "open" });
	show(<AccountsPacked packed={pack({ view, seen: "2026-11-24", mayAssign: true })} />, "helena");
	expect(view.bands.reduce((sum, band) => sum + band.count, 0)).toBe(view.total);
	const shown = screen
		.getAllByRole("row")
		.slice(1)
		.map((line) => {
			// One name may begin another.
			const named = view.accounts.filter((account) => line.textContent?.startsWith(account.name));
			return named.reduce((best, account) => (account.name.length > best.name.length ? account : best), named[0] ?? { name: "", openAmount: -1 }).openAmount;
		})
		.filter((amount) => amount >= 0);
	expect(shown.length).toBeGreaterThan(10);
	expect(shown).toEqual([...shown].sort((a, b) => b - a));
});

test("a side sheet says why the deal is lit, with each flag’s day, as the figures have it", async () => {
	const { context } = await look("ruth");
	const view = await readSheet(context, "story-rack", "2026-11-24", "2026-11-16");
	const given: boolean[] = [];
	show(<SheetBody view={view} onAssign={() => given.push(true)} />, "ruth");
	expect(view.flags.length).toBeGreaterThan(0);
	for (const flag of view.flags) expect(screen.getAllByText(flag.label, { exact: false }).length).toBeGreaterThan(0);
	fireEvent.click(screen.getAllByRole("button", { name: /task/i })[0] as HTMLElement);
	expect(given.length).toBe(1);
});
